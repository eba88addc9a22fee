import {
  discountAtIssue,
  lastCouponRow,
  type BondRow,
  type BondSchedule,
  type BookedAmounts,
} from '../bond/bond-schedule.ts';
import type { CalendarDay } from '../calendar/calendar-day.ts';
import { firstDay, type Schedule } from '../instrument/instrument.ts';
import { bookedInterest } from '../loan/booked-interest.ts';
import { costAmortization, isDeferred } from '../loan/costs/issue-costs.ts';
import { lastRowOn, type LoanSchedule } from '../loan/loan-schedule.ts';
import { broughtInAccrued } from '../position/loan-position.ts';
import { position } from '../position/position.ts';
import { sumColumn } from '../proofs/proof.ts';
import type { AccountRole } from './account-role.ts';
import { discountRole } from './bond-entries.ts';
import { principalRole } from './entries.ts';
import { costsRole, feesBetween } from './loan-entries.ts';

/** Balances by account: debits positive, credits negative, minor units. */
export type Balances = ReadonlyMap<AccountRole, number>;

/**
 * Where an instrument's accounts stand after a period end once the period's accrual is reversed: the sum of all
 * its entries to that day with the reversals of the day after, reached from the position without making them.
 */
export function standingBalances(schedule: Schedule, periodEnd: CalendarDay): Balances {
  const balances = new Map<AccountRole, number>();
  if (periodEnd < firstDay(schedule)) return balances;
  const at = position(schedule, periodEnd);
  balances.set(principalRole(schedule), at.current - at.outstanding);
  balances.set('current-portion', -at.current);
  balances.set('interest-payable', -at.unpaidInterest);
  if (schedule.kind === 'loan') {
    loanStanding(schedule, periodEnd, balances);
    return balances;
  }
  bondStanding(schedule, periodEnd, balances);
  return balances;
}

function bondStanding(
  schedule: BondSchedule,
  periodEnd: CalendarDay,
  balances: Map<AccountRole, number>,
): void {
  const { terms, proceeds, accruedReceived } = schedule;
  const rows = schedule.rows.filter((row) => row.due <= periodEnd);
  const sum = (of: (row: BondRow) => number): number => rows.reduce((total, row) => total + of(row), 0);
  const booked = (of: keyof BookedAmounts): number => sum((row) => row.booked[of]);
  const discount = discountAtIssue(schedule);
  const costs = terms.issueCosts?.amount ?? 0;
  const matured = periodEnd >= terms.matures ? (lastCouponRow(schedule)?.faceAfter ?? 0) : 0;
  const goods = terms.issuedFor === 'goods';
  const writtenOff = booked('discountWrittenOff') + booked('costsWrittenOff');
  const early = (row: BondRow): number =>
    row.kind === 'redemption' ? row.paid - (row.faceBefore - row.faceAfter) : 0;
  balances.set(discountRole(schedule), discount - booked('discount') - booked('discountWrittenOff'));
  balances.set('issue-costs', costs - booked('costs') - booked('costsWrittenOff'));
  balances.set('interest-payable', booked('received') - accruedReceived);
  balances.set(
    'interest-expense',
    booked('coupon') - booked('received') + booked('discount') + booked('costs'),
  );
  balances.set('redemption-gain-loss', sum(early) + writtenOff);
  balances.set('cash', (goods ? 0 : proceeds) - costs - booked('coupon') - sum(({ paid }) => paid) - matured);
  if (goods) balances.set('asset', proceeds);
}

function loanStanding(
  schedule: LoanSchedule,
  periodEnd: CalendarDay,
  balances: Map<AccountRole, number>,
): void {
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
  balances.set('interest-payable', -unpaid - broughtInLeft);
  balances.set('interest-expense', interest - (broughtIn - broughtInLeft) + amortized);
  balances.set(costsRole(terms), costs + feesPaid - expensed - amortized);
  balances.set('fees', sum(schedule.fee) + expensed);
  balances.set('redemption-gain-loss', -settled);
  const overpaid = rows === 0 ? 0 : (schedule.overpaid[rows - 1] as number);
  balances.set('overpayment', overpaid);
  balances.set('cash', taken - (terms.takenOn ? 0 : costs) - feesPaid - paid - overpaid);
  if (terms.purchase) balances.set('asset', terms.purchase.price);
  if (terms.takenOn) balances.set('opening-balances', terms.amount + broughtIn - costs);
}
