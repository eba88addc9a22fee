import type { Count, NumberOf } from '../units/units.ts';

/**
 * A calendar date as the count of days since 1970-01-01 in the proleptic Gregorian calendar (ISO 8601).
 * It has no time and no zone, and differences between two are differences in days.
 */
export type CalendarDay = NumberOf<'calendar day'>;

/** Year, month (1–12) and day of the month (1–31). */
export interface CalendarFields {
  readonly year: number;
  readonly month: number;
  readonly day: number;
}

const monthLengths = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31] as const;

/** Whether a year has 366 days (Gregorian rule: every fourth, but of the centuries only every fourth). */
export function isLeapYear(year: number): boolean {
  return year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0);
}

/**
 * Days in a month, 28 to 31; none where there is no such month.
 *
 * @example
 * daysInMonth(2024, 2) // 29
 */
export function daysInMonth(year: number, month: number): Count {
  return month === 2 && isLeapYear(year) ? 29 : (monthLengths[month - 1] ?? 0);
}

/**
 * The day with these fields; they must name a real date. Counts years from 1 March, so leap days fall last.
 *
 * @example
 * formatDay(calendarDay(2025, 2, 28)) // '2025-02-28'
 */
export function calendarDay(year: number, month: number, day: number): CalendarDay {
  const y = month <= 2 ? year - 1 : year;
  const era = Math.floor(y / 400);
  const yearOfEra = y - era * 400;
  const dayOfYear = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + day - 1;
  const dayOfEra = yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + dayOfYear;
  return era * 146097 + dayOfEra - 719468;
}

/**
 * The fields of a day: the inverse of {@link calendarDay}.
 *
 * @example
 * calendarFields(day('2025-06-15')) // { year: 2025, month: 6, day: 15 }
 */
export function calendarFields(value: CalendarDay): CalendarFields {
  const shifted = value + 719468;
  const era = Math.floor(shifted / 146097);
  const dayOfEra = shifted - era * 146097;
  const yearOfEra = Math.floor(
    (dayOfEra - Math.floor(dayOfEra / 1460) + Math.floor(dayOfEra / 36524) - Math.floor(dayOfEra / 146096)) /
      365,
  );
  const dayOfYear = dayOfEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100));
  const shiftedMonth = Math.floor((5 * dayOfYear + 2) / 153);
  const day = dayOfYear - Math.floor((153 * shiftedMonth + 2) / 5) + 1;
  const month = shiftedMonth < 10 ? shiftedMonth + 3 : shiftedMonth - 9;
  return { year: yearOfEra + era * 400 + (month <= 2 ? 1 : 0), month, day };
}

/**
 * Reads `YYYY-MM-DD`; `undefined` for any other form and for dates that do not exist, such as 30 February.
 *
 * @example
 * parseDay('2025-02-30') // undefined
 */
export function parseDay(text: string): CalendarDay | undefined {
  const match = /^(\d{4})-(\d{2})-(\d{2})$/.exec(text);
  if (!match) return undefined;
  const [year, month, day] = [Number(match[1]), Number(match[2]), Number(match[3])];
  if (year < 1 || day < 1 || day > daysInMonth(year, month)) return undefined;
  return calendarDay(year, month, day);
}

/**
 * A day as `YYYY-MM-DD` (ISO 8601 calendar date, extended format).
 *
 * @example
 * formatDay(day('2025-01-01') + 31) // '2025-02-01'
 */
export function formatDay(value: CalendarDay): string {
  const { year, month, day } = calendarFields(value);
  return `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`;
}

/**
 * The last day of the month that a day falls in.
 *
 * @example
 * formatDay(monthEnd(day('2024-02-01'))) // '2024-02-29'
 */
export function monthEnd(value: CalendarDay): CalendarDay {
  const { year, month } = calendarFields(value);
  return calendarDay(year, month, daysInMonth(year, month));
}

/**
 * The day `months` later (or earlier), on the same day of the month or on the month's last day where it has
 * none. With `keepMonthEnd`, a month's last day goes to a month's last day.
 *
 * @example
 * formatDay(addMonths(day('2025-01-31'), 1)) // '2025-02-28'
 */
export function addMonths(value: CalendarDay, months: Count, keepMonthEnd = false): CalendarDay {
  const { year, month, day } = calendarFields(value);
  const index = year * 12 + (month - 1) + months;
  const toYear = Math.floor(index / 12);
  const toMonth = index - toYear * 12 + 1;
  const last = daysInMonth(toYear, toMonth);
  const stick = keepMonthEnd && day === daysInMonth(year, month);
  return calendarDay(toYear, toMonth, stick ? last : Math.min(day, last));
}
