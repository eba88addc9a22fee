import { calendarFields, daysInMonth, type CalendarDay } from './calendar-day.ts';
import type { Count } from '../units/units.ts';

/**
 * Calendar months from one day to another, whole months only and negative backwards: from 15 June to 15 September is
 * 3, to 14 September 2. Month end to month end is whole, whatever the days: from 31 January to 28 February is 1.
 *
 * @example
 * monthsBetween(day('2025-01-31'), day('2025-03-31')) // 2
 */
export function monthsBetween(from: CalendarDay, to: CalendarDay): Count {
  if (to < from) return -monthsBetween(to, from);
  const [one, other] = [calendarFields(from), calendarFields(to)];
  const months = 12 * (other.year - one.year) + other.month - one.month;
  const whole = other.day >= one.day || other.day === daysInMonth(other.year, other.month);
  return whole ? months : months - 1;
}
