import { calendarFields, type CalendarDay } from '../calendar-day.ts';
import { lastWeekday, nthWeekday, weekday } from './weekday.ts';

const monday = 0;
const thursday = 3;
const sunday = 6;

/**
 * Whether the Federal Reserve Banks are closed on a weekday. A holiday on a Sunday is kept on the Monday after;
 * one on a Saturday is not moved, the Banks being open on the Friday before. Source: Federal Reserve Banks,
 * Holiday Schedules; 5 U.S.C. 6103(a), with the holidays of the Uniform Monday Holiday Act from 1971, the birthday
 * of Martin Luther King, Jr. from 1986 and Juneteenth from 2021 (kept by the Banks from 2022).
 */
export function federalReserveHoliday(day: CalendarDay): boolean {
  const { year, month, day: dayOfMonth } = calendarFields(day);
  const fixed = (ofMonth: number, on: number): boolean =>
    month === ofMonth && (dayOfMonth === on || (dayOfMonth === on + 1 && weekday(day - 1) === sunday));
  if (fixed(1, 1) || fixed(7, 4) || fixed(11, 11) || fixed(12, 25)) return true;
  if (year >= 2022 && fixed(6, 19)) return true;
  switch (month) {
    case 1:
      return year >= 1986 && day === nthWeekday(year, 1, monday, 3);
    case 2:
      return day === nthWeekday(year, 2, monday, 3);
    case 5:
      return day === lastWeekday(year, 5, monday);
    case 9:
      return day === nthWeekday(year, 9, monday, 1);
    case 10:
      return day === nthWeekday(year, 10, monday, 2);
    case 11:
      return day === nthWeekday(year, 11, thursday, 4);
    default:
      return false;
  }
}
