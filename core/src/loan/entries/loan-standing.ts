import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { bookedInterest } from '../interest/booked-interest.ts';
import { costAmortization, isDeferred } from '../costs/issue-costs.ts';
import { lastRowOn, type LoanSchedule } from '../schedule/loan-schedule.ts';
import { broughtInAccrued } from '../position/loan-position.ts';
import { sumColumn } from '../../proofs/proof.ts';
import type { AccountRole } from '../../entries/account-role.ts';
import { costsRole, feesBetween } from './loan-entries.ts';

/** Where a loan's accounts but principal and current portion stand after a period end, its accrual reversed. */
export function loanStanding(
  schedule: LoanSchedule,
  periodEnd: CalendarDay,
): (readonly [AccountRole, number])[] {
  const { terms, settlement } = schedule;
  const rows = lastRowOn(schedule.date, schedule.length, periodEnd) + 1;
  const sum = (column: Float64Array): number => sumColumn(column, rows);
  const broughtIn = terms.takenOn?.accruedInterest ?? 0;
  const broughtInLeft = broughtInAccrued(schedule, periodEnd);
  const fees = feesBetween(schedule, terms.start, periodEnd);
  const feesPaid = fees.reduce((total, fee) => total + fee.amount, 0);
  const expensed = fees.reduce((total, fee) => total + (isDeferred(schedule, fee) ? 0 : fee.amount), 0);
  const costs = terms.issueCosts?.amount ?? 0;
  const amortized = sumColumn(
    costAmortization(schedule).amortized,
    Math.min(rows, costAmortization(schedule).amortized.length),
  );
  const settled = settlement && settlement.row < rows ? settlement.owed - settlement.paid : 0;
  const interest = sum(bookedInterest(schedule));
  const unpaid = rows === 0 ? 0 : (schedule.unpaid[rows - 1] as number);
  const outstanding = rows === 0 ? terms.amount : (schedule.closing[rows - 1] as number);
  // Everything charged or repaid that does not stand unpaid went through cash.
  const paid = interest - unpaid + terms.amount - outstanding + sum(schedule.fee) - settled;
  const taken = terms.purchase ? -terms.purchase.downPayment : terms.takenOn ? 0 : terms.amount;
  const overpaid = rows === 0 ? 0 : (schedule.overpaid[rows - 1] as number);
  return [
    ['interest-payable', -unpaid - broughtInLeft],
    ['interest-expense', interest - (broughtIn - broughtInLeft) + amortized],
    [costsRole(terms), costs + feesPaid - expensed - amortized],
    ['fees', sum(schedule.fee) + expensed],
    ['redemption-gain-loss', -settled],
    ['overpayment', overpaid],
    ['cash', taken - (terms.takenOn ? 0 : costs) - feesPaid - paid - overpaid],
    ...(terms.purchase ? [['asset', terms.purchase.price] as const] : []),
    ...(terms.takenOn ? [['opening-balances', terms.amount + broughtIn - costs] as const] : []),
  ];
}
