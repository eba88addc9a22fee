import { formatDay, type CalendarDay } from '../calendar/calendar-day.ts';
import type { LoanSchedule } from '../loan/loan-schedule.ts';
import { loanPosition } from '../position/loan-position.ts';
import { entryOf, type Entry } from './entry.ts';

/** Borrowing, or the purchase that the loan financed. */
export function loanIssueEntry({ terms }: LoanSchedule): Entry | undefined {
  if (terms.purchase) {
    return entryOf(terms.start, 'issue', 'Financed purchase', null, [
      ['asset', terms.purchase.price],
      ['cash', -terms.purchase.downPayment],
      ['loan-payable', -terms.amount],
    ]);
  }
  return entryOf(terms.start, 'issue', 'Loan received', null, [
    ['cash', terms.amount],
    ['loan-payable', -terms.amount],
  ]);
}

/**
 * The entry of one row: interest charged to expense, what stays unpaid (or was unpaid before) through interest
 * payable, principal to the loan, what was paid from cash.
 */
export function loanRowEntry(schedule: LoanSchedule, row: number): Entry | undefined {
  const at = (column: Float64Array): number => column[row] as number;
  const n = schedule.n[row] as number;
  const unpaidBefore = row === 0 ? 0 : (schedule.unpaid[row - 1] as number);
  const paid = at(schedule.payment) + at(schedule.extra);
  const due = formatDay(schedule.due[row] as number);
  let memo = n > 0 ? `Payment ${n}` : 'Extra principal';
  if (n > 0 && at(schedule.extra) > 0) memo = `Payment ${n} and extra principal`;
  if (n > 0 && paid === 0) memo = `Interest due with payment ${n}, unpaid`;
  if (n === 0 && schedule.due[row] !== schedule.date[row]) memo = `Late payment due ${due}`;
  return entryOf(schedule.date[row] as number, 'payment', memo, n || null, [
    ['interest-expense', at(schedule.interest)],
    ['interest-payable', unpaidBefore - at(schedule.unpaid)],
    ['loan-payable', at(schedule.principal) + at(schedule.extra)],
    ['cash', -paid],
  ]);
}

/** Interest accrued to a period end. */
export function loanAccrualEntry(schedule: LoanSchedule, on: CalendarDay): Entry | undefined {
  const { accruedInterest } = loanPosition(schedule, on);
  return entryOf(on, 'accrual', `Interest accrued to ${formatDay(on)}`, null, [
    ['interest-expense', accruedInterest],
    ['interest-payable', -accruedInterest],
  ]);
}
