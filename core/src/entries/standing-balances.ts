import type { CalendarDay } from '../calendar/calendar-day.ts';
import { debtKindOf } from '../kinds/kinds.ts';
import type { Schedule } from '../kinds/schedules.ts';
import type { AccountRole } from './account-role.ts';

/** Balances by account: debits positive, credits negative, minor units. */
export type Balances = ReadonlyMap<AccountRole, number>;

/**
 * Where an instrument's accounts stand after a period end once the period's accrual is reversed: the sum of all
 * its entries to that day with the reversals of the day after, reached from the position without making them.
 */
export function standingBalances(schedule: Schedule, periodEnd: CalendarDay): Balances {
  const kind = debtKindOf(schedule);
  if (periodEnd < kind.firstDay(schedule)) return new Map();
  const at = kind.position(schedule, periodEnd);
  return new Map([
    [kind.principalRole, at.current - at.outstanding],
    ['current-portion', -at.current],
    ...kind.standing(schedule, periodEnd),
  ]);
}
