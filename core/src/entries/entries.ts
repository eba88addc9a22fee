import { formatDay, type CalendarDay } from '../calendar/calendar-day.ts';
import type { Schedule } from '../instrument/instrument.ts';
import { position } from '../position/position.ts';
import type { AccountRole } from './account-role.ts';
import { withAccruals, type AccrualChoice, type EntrySource } from './accruals.ts';
import { bondAccrualEntry, bondIssueEntry, bondRedemptionEntry, bondRowEntries } from './bond-entries.ts';
import { entryOf, inOrder, type Entry } from './entry.ts';
import { loanAccrualEntry, loanIssueEntry, loanRowEntry, feesBetween, loanFeeEntry } from './loan-entries.ts';
import { periodEndBefore, periodEnds, type PeriodLength } from './period-ends.ts';

/**
 * The entries of an instrument that fall from one day to another, both included, in order of date: issue,
 * payments, coupons and redemption; and at each period end the accrual with amortization (reversed the day after, or
 * cleared by the payment, as the company chooses) and the move of the current portion. Over an instrument's whole
 * life every balance-sheet account but cash (and the asset bought) returns to zero and interest expense is the
 * schedule's total.
 */
export function entries(
  schedule: Schedule,
  from: CalendarDay,
  to: CalendarDay,
  periods: PeriodLength,
  accruals: AccrualChoice = 'reversed',
): Entry[] {
  const moves = periodEnds(periods, from, to).map((end) => currentPortionEntry(schedule, end, periods));
  return inOrder([...withAccruals(sourceOf(schedule), from, to, periods, accruals), ...moves]);
}

/** What a schedule books by itself, and accrues. */
export function sourceOf(schedule: Schedule): EntrySource {
  return {
    own: (from, to) => inOrder(ownEntries(schedule, from, to)),
    accrual: (end) => accrualEntry(schedule, end),
  };
}

/** What is booked on one day: what falls on it, and what a period ending on it would accrue. */
export function entriesOnDay(schedule: Schedule, day: CalendarDay): Entry[] {
  const own = ownEntries(schedule, day, day);
  return [...own, accrualEntry(schedule, day)].filter((entry) => entry !== undefined);
}

function ownEntries(schedule: Schedule, from: CalendarDay, to: CalendarDay): (Entry | undefined)[] {
  const within = (day: CalendarDay): boolean => day >= from && day <= to;
  const found: (Entry | undefined)[] = [];
  if (schedule.kind === 'loan') {
    if (within(schedule.terms.start)) found.push(loanIssueEntry(schedule));
    for (let row = 0; row < schedule.length; row += 1) {
      if (within(schedule.date[row] as number)) found.push(loanRowEntry(schedule, row));
    }
    for (const fee of feesBetween(schedule, from, to)) found.push(loanFeeEntry(schedule, fee));
    return found;
  }
  for (const row of schedule.rows) {
    if (within(row.due)) found.push(...bondRowEntries(schedule, row));
  }
  if (within(schedule.terms.matures)) found.push(bondRedemptionEntry(schedule));
  return found;
}

/** The entry that an instrument begins with: the loan received or taken on, the bond issued. */
export function issueEntry(schedule: Schedule): Entry | undefined {
  return schedule.kind === 'loan' ? loanIssueEntry(schedule) : bondIssueEntry(schedule);
}

/** The accrual of a period end, with amortization where there is any. */
export function accrualEntry(schedule: Schedule, end: CalendarDay): Entry | undefined {
  return schedule.kind === 'loan' ? loanAccrualEntry(schedule, end) : bondAccrualEntry(schedule, end);
}

/** The role that the principal or face of an instrument stands in. */
export function principalRole(schedule: Schedule): AccountRole {
  return schedule.kind === 'loan' ? 'loan-payable' : 'bonds-payable';
}

/** The move between the non-current and the current part for the change since the period end before. */
export function currentPortionEntry(
  schedule: Schedule,
  end: CalendarDay,
  periods: PeriodLength,
): Entry | undefined {
  const before = position(schedule, periodEndBefore(periods, end)).current;
  const change = position(schedule, end).current - before;
  return entryOf(end, 'current-portion', `Current portion at ${formatDay(end)}`, null, [
    [principalRole(schedule), change],
    ['current-portion', -change],
  ]);
}
