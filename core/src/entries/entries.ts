import { formatDay, type CalendarDay } from '../calendar/calendar-day.ts';
import { debtKindOf, isDebt, kindOf } from '../kinds/kinds.ts';
import type { AnySchedule, Schedule } from '../kinds/schedules.ts';
import { position } from '../position/position.ts';
import type { AccountRole } from './account-role.ts';
import { withAccruals, type AccrualChoice, type EntrySource } from './accruals.ts';
import { entryOf, inOrder, type Entry } from './entry.ts';
import { periodEndBefore, periodEnds, type PeriodLength } from './period-ends.ts';

/**
 * The entries of an instrument or a fund that fall from one day to another, both included, in order of date: issue,
 * payments, coupons and redemption; and at each period end the accrual with amortization (reversed the day after, or
 * cleared by the payment, as the company chooses) and the move of the current portion. Over an instrument's whole
 * life every balance-sheet account but cash (and the asset bought) returns to zero and interest expense is the
 * schedule's total.
 *
 * @example
 * entries(loan, day('2025-02-01'), day('2025-02-28'), 'month').map(({ kind }) => kind)
 * // [ 'reversal', 'payment', 'accrual', 'current-portion' ]
 */
export function entries(
  schedule: AnySchedule,
  from: CalendarDay,
  to: CalendarDay,
  periods: PeriodLength,
  accruals: AccrualChoice = 'reversed',
): Entry[] {
  const moves = isDebt(schedule)
    ? periodEnds(periods, from, to).map((end) => currentPortionEntry(schedule, end, periods))
    : [];
  return inOrder([...withAccruals(sourceOf(schedule), from, to, periods, accruals), ...moves]);
}

/** What a schedule books by itself, and accrues. */
export function sourceOf(schedule: AnySchedule): EntrySource {
  const kind = kindOf(schedule);
  return {
    own: (from, to) => inOrder(kind.ownEntries(schedule, from, to)),
    accrual: (end) => accrualEntry(schedule, end),
  };
}

/**
 * What is booked on one day: what falls on it, and what a period ending on it would accrue.
 *
 * @example
 * entriesOnDay(loan, day('2025-02-01'))[0].kind // 'payment'
 */
export function entriesOnDay(schedule: AnySchedule, day: CalendarDay): Entry[] {
  const own = kindOf(schedule).ownEntries(schedule, day, day);
  return [...own, accrualEntry(schedule, day)].filter((entry) => entry !== undefined);
}

/**
 * The entry that an instrument begins with: the loan received or taken on, the bond issued.
 *
 * @example
 * issueEntry(bond).lines.length // 3
 */
export function issueEntry(schedule: Schedule): Entry | undefined {
  return debtKindOf(schedule).issue(schedule);
}

/**
 * The accrual of a period end, with amortization where there is any.
 *
 * @example
 * accrualEntry(loan, day('2025-01-31')).lines[0].debit // 968
 */
export function accrualEntry(schedule: AnySchedule, end: CalendarDay): Entry | undefined {
  return kindOf(schedule).accrual(schedule, end);
}

/** The role that the principal or face of an instrument stands in. */
export function principalRole(schedule: Schedule): AccountRole {
  return debtKindOf(schedule).principalRole;
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
