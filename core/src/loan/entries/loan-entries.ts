import { formatDay, type CalendarDay } from '../../calendar/calendar-day.ts';
import { bookedInterest } from '../interest/booked-interest.ts';
import { amortizedCosts, costAmortization, isDeferred } from '../costs/issue-costs.ts';
import { eventsOf, type Fee } from '../terms/loan-events.ts';
import { isFirstCharge, kindOfRow, rowOfDue, type LoanSchedule } from '../schedule/loan-schedule.ts';
import { accruedFee, accruedInterest, broughtInAccrued } from '../position/loan-position.ts';
import type { LoanTerms } from '../terms/loan-terms.ts';
import type { AccountRole } from '../../entries/account-role.ts';
import { entryOf, type Entry } from '../../entries/entry.ts';

/** Where costs not yet amortized stand: of a credit line they are an asset of their own (ASC 835-30-S45-1). */
export function costsRole({ creditLine }: LoanTerms): AccountRole {
  return creditLine ? 'deferred-costs' : 'issue-costs';
}

/** Borrowing, the purchase that the loan financed, or a loan taken on in mid-life. */
export function loanIssueEntry({ terms }: LoanSchedule): Entry | undefined {
  const costs = terms.issueCosts?.amount ?? 0;
  const role = costsRole(terms);
  const issueCosts = [
    [role, costs],
    ['cash', -costs],
  ] as const;
  if (terms.purchase) {
    return entryOf(terms.start, 'issue', 'Financed purchase', null, [
      ['asset', terms.purchase.price],
      ['cash', -terms.purchase.downPayment],
      ['loan-payable', -terms.amount],
      ...issueCosts,
    ]);
  }
  if (terms.takenOn) {
    const { accruedInterest } = terms.takenOn;
    return entryOf(terms.start, 'issue', 'Loan taken on', null, [
      ['opening-balances', terms.amount + accruedInterest - costs],
      ['loan-payable', -terms.amount],
      ['interest-payable', -accruedInterest],
      [role, costs],
    ]);
  }
  return entryOf(terms.start, 'issue', terms.creditLine ? 'Credit line arranged' : 'Loan received', null, [
    ['cash', terms.amount - costs],
    [role, costs],
    ['loan-payable', -terms.amount],
  ]);
}

/**
 * The entry of one row: interest charged to expense, what stays unpaid (or was unpaid before) through interest
 * payable, principal to the loan, what was paid from cash.
 */
export function loanRowEntry(schedule: LoanSchedule, row: number): Entry | undefined {
  const { terms, settlement } = schedule;
  const before = (column: Float64Array): number => (row === 0 ? 0 : (column[row - 1] as number));
  const at = (column: Float64Array): number => column[row] as number;
  const interest = at(bookedInterest(schedule));
  const broughtIn = terms.takenOn && isFirstCharge(schedule, row) ? terms.takenOn.accruedInterest : 0;
  const unpaid = before(schedule.unpaid) - at(schedule.unpaid);
  const repaid = at(schedule.opening) - at(schedule.closing);
  const fee = at(schedule.fee);
  const overpaid = at(schedule.overpaid) - before(schedule.overpaid);
  const costs = costAmortization(schedule).amortized[row] ?? 0;
  const settled = settlement?.row === row ? settlement.owed - settlement.paid : 0;
  return entryOf(schedule.date[row] as number, 'payment', memoOf(schedule, row), numberOf(schedule, row), [
    ['interest-expense', interest - broughtIn + costs],
    [costsRole(terms), -costs],
    ['interest-payable', unpaid + broughtIn],
    ['loan-payable', repaid],
    ['fees', fee],
    ['redemption-gain-loss', -settled],
    ['overpayment', overpaid],
    ['cash', -(interest + unpaid + repaid + fee - settled + overpaid)],
  ]);
}

/** The number of the payment that a row is or was made for, where there is one. */
function numberOf(schedule: LoanSchedule, row: number): number | null {
  const own = schedule.n[row] as number;
  if (own > 0) return own;
  const at = rowOfDue(schedule, schedule.due[row] as number);
  return at < 0 ? null : (schedule.n[at] as number);
}

function memoOf(schedule: LoanSchedule, row: number): string {
  const n = schedule.n[row] as number;
  const extra = schedule.extra[row] as number;
  const paid = (schedule.payment[row] as number) + extra;
  switch (kindOfRow(schedule, row)) {
    case 'draw':
      return 'Amount drawn';
    case 'interest-added':
      return 'Interest added to the balance';
    case 'settlement':
      return 'Settlement of the loan';
    case 'extra':
      return 'Extra principal';
    case 'overpayment-returned':
      return 'Overpayment returned';
    case 'early-payment':
      return `Early payment due ${formatDay(schedule.due[row] as number)}`;
    case 'late-payment':
    case 'overdue-payment':
      return `Late payment due ${formatDay(schedule.due[row] as number)}`;
    case 'payment':
      if (schedule.settlement?.row === row) return `Payment ${n} and settlement of the loan`;
      if (extra > 0) return `Payment ${n} and extra principal`;
      if (paid > 0) return `Payment ${n}`;
      return (schedule.added[row] as number) > 0
        ? `Interest of period ${n} added to the balance`
        : `Interest due with payment ${n}, unpaid`;
  }
}

/** A fee paid: an expense, or deferred with the costs of the loan. */
export function loanFeeEntry(schedule: LoanSchedule, fee: Fee): Entry | undefined {
  const deferred = isDeferred(schedule, fee);
  return entryOf(fee.on, 'payment', deferred ? 'Fee deferred' : 'Fee', null, [
    [deferred ? costsRole(schedule.terms) : 'fees', fee.amount],
    ['cash', -fee.amount],
  ]);
}

/** Fees paid from one day to another, both included. */
export function feesBetween(schedule: LoanSchedule, from: CalendarDay, to: CalendarDay): Fee[] {
  return eventsOf(schedule.terms.events, 'fee').filter((fee) => fee.on >= from && fee.on <= to);
}

/** Interest, the fee on the unused part, and amortization of costs accrued to a period end. */
export function loanAccrualEntry(schedule: LoanSchedule, on: CalendarDay): Entry | undefined {
  const { terms, date, length } = schedule;
  // Interest that had accrued before a loan was taken on stands in interest payable already.
  const accrued = accruedInterest(schedule, on) - broughtInAccrued(schedule, on);
  const fee = accruedFee(schedule, on);
  const { amortized } = costAmortization(schedule);
  let withRows = 0;
  for (let row = 0; row < length && (date[row] as number) <= on; row += 1) withRows += amortized[row] ?? 0;
  const costs = amortizedCosts(schedule, on) - withRows;
  return entryOf(on, 'accrual', `${accrualMemo(accrued, fee, costs)} to ${formatDay(on)}`, null, [
    ['interest-expense', accrued + costs],
    ['fees', fee],
    [costsRole(terms), -costs],
    ['interest-payable', -accrued - fee],
  ]);
}

/** What an accrual says of itself: only what it holds. */
function accrualMemo(accrued: number, fee: number, costs: number): string {
  const owed = [...(accrued === 0 ? [] : ['interest']), ...(fee === 0 ? [] : ['fee'])].join(' and ');
  const parts = [...(owed === '' ? [] : [`${owed} accrued`]), ...(costs === 0 ? [] : ['costs amortized'])];
  const said = parts.join(' and ');
  return said.charAt(0).toUpperCase() + said.slice(1);
}

/** What a loan books by itself from one day to another, both included: its beginning, its rows and its fees. */
export function loanOwnEntries(
  schedule: LoanSchedule,
  from: CalendarDay,
  to: CalendarDay,
): (Entry | undefined)[] {
  const within = (day: CalendarDay): boolean => day >= from && day <= to;
  const found: (Entry | undefined)[] = [];
  if (within(schedule.terms.start)) found.push(loanIssueEntry(schedule));
  for (let row = 0; row < schedule.length; row += 1) {
    if (within(schedule.date[row] as number)) found.push(loanRowEntry(schedule, row));
  }
  for (const fee of feesBetween(schedule, from, to)) found.push(loanFeeEntry(schedule, fee));
  return found;
}
