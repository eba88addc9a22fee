import type { CalendarDay } from '../calendar/calendar-day.ts';
import { debtKindOf } from '../kinds/kinds.ts';
import type { Schedule } from '../kinds/schedules.ts';
import type { MinorUnits } from '../units/units.ts';

/**
 * Interest expense after one day up to the end of another, in minor units: the expense of rows dated in
 * between, plus what has accrued at the end, less what had accrued at the start. Over adjoining stretches it
 * sums to the schedule's total.
 *
 * @example
 * interestExpense(loan, day('2024-12-31'), day('2025-01-31')) // 968
 */
export function interestExpense(schedule: Schedule, after: CalendarDay, through: CalendarDay): MinorUnits {
  const kind = debtKindOf(schedule);
  const by = (on: CalendarDay): number =>
    kind.interestThrough(schedule, on) + kind.amortizedThrough(schedule, on);
  return by(through) - by(after);
}
