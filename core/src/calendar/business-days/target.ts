import { calendarFields, type CalendarDay } from '../calendar-day.ts';
import { easterSunday } from './easter.ts';

/**
 * Whether TARGET, the euro's payment system, is closed on a weekday: New Year's Day, Good Friday, Easter Monday,
 * 1 May, 25 and 26 December. Source: European Central Bank, long-term calendar of closing days, in force from
 * 2002; for 1999 to 2001 the closings of 31 December, and before 2000 no others than Christmas and New Year.
 */
export function targetHoliday(day: CalendarDay): boolean {
  const { year, month, day: dayOfMonth } = calendarFields(day);
  if (month === 1 && dayOfMonth === 1) return true;
  if (month === 12 && dayOfMonth === 25) return true;
  if (month === 12 && dayOfMonth === 31) return year === 1998 || year === 1999 || year === 2001;
  if (year < 2000) return false;
  if ((month === 5 && dayOfMonth === 1) || (month === 12 && dayOfMonth === 26)) return true;
  if (month !== 3 && month !== 4) return false;
  const easter = easterSunday(year);
  return day === easter - 2 || day === easter + 1;
}
