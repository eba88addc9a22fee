import type { CalendarDay } from '../calendar/calendar-day.ts';
import { debtKindOf } from '../kinds/kinds.ts';
import type { Schedule } from '../kinds/schedules.ts';
import type { Position } from './position-figures.ts';

/**
 * The position of an instrument on a day; all zero before it begins and after it is settled.
 *
 * @example
 * position(loan, day('2025-03-31')).outstanding // 84_151
 */
export function position(schedule: Schedule, on: CalendarDay): Position {
  return debtKindOf(schedule).position(schedule, on);
}
