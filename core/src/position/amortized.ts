import type { CalendarDay } from '../calendar/calendar-day.ts';
import { debtKindOf } from '../kinds/kinds.ts';
import type { Schedule } from '../kinds/schedules.ts';
import type { MinorUnits } from '../units/units.ts';

/**
 * Discount and issue costs amortized (a premium is negative) after one day up to the end of another, minor units.
 * What a redemption writes off is gain or loss and not in it. Over adjoining stretches it sums to the whole.
 *
 * @example
 * amortizedBetween(bond, day('2023-12-31'), day('2024-07-01')) // 61_400
 */
export function amortizedBetween(schedule: Schedule, after: CalendarDay, through: CalendarDay): MinorUnits {
  return amortizedThrough(schedule, through) - amortizedThrough(schedule, after);
}

/** Discount and issue costs amortized from the beginning to the end of a day. */
export function amortizedThrough(schedule: Schedule, on: CalendarDay): MinorUnits {
  return debtKindOf(schedule).amortizedThrough(schedule, on);
}
