import { calendarDay, daysInMonth, type CalendarDay } from '../calendar-day.ts';

/** The day of the week: 0 is Monday, 6 is Sunday. 1 January 1970, day zero, was a Thursday. */
export function weekday(day: CalendarDay): number {
  return (((day + 3) % 7) + 7) % 7;
}

/** The first, second, … of a weekday in a month. */
export function nthWeekday(year: number, month: number, which: number, nth: number): CalendarDay {
  const first = calendarDay(year, month, 1);
  return first + ((which - weekday(first) + 7) % 7) + 7 * (nth - 1);
}

/** The last of a weekday in a month. */
export function lastWeekday(year: number, month: number, which: number): CalendarDay {
  const last = calendarDay(year, month, daysInMonth(year, month));
  return last - ((weekday(last) - which + 7) % 7);
}
