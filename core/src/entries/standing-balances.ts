import type { CalendarDay } from '../calendar/calendar-day.ts';
import { debtKindOf, isDebt, kindOf } from '../kinds/kinds.ts';
import type { AnySchedule } from '../kinds/schedules.ts';
import type { AccountRole } from './account-role.ts';
import type { MinorUnits } from '../units/units.ts';

/** Balances by account: debits positive, credits negative, minor units. */
export type Balances = ReadonlyMap<AccountRole, MinorUnits>;

/**
 * Where an instrument's accounts stand after a period end once the period's accrual is reversed: the sum of all
 * its entries to that day with the reversals of the day after, reached from the position without making them.
 */
export function standingBalances(schedule: AnySchedule, periodEnd: CalendarDay): Balances {
  const kind = kindOf(schedule);
  if (periodEnd < kind.firstDay(schedule)) return new Map();
  return new Map([...principalStanding(schedule, periodEnd), ...kind.standing(schedule, periodEnd)]);
}

/** Where principal and current portion of what is owed stand. */
function principalStanding(
  schedule: AnySchedule,
  periodEnd: CalendarDay,
): (readonly [AccountRole, MinorUnits])[] {
  if (!isDebt(schedule)) return [];
  const kind = debtKindOf(schedule);
  const at = kind.position(schedule, periodEnd);
  return [
    [kind.principalRole, at.current - at.outstanding],
    ['current-portion', -at.current],
  ];
}
