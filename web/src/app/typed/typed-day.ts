import { habitsNow, type DateHabit } from '@coffer/contract';
import { calendarDay, calendarFields, daysInMonth, parseDay, type CalendarDay } from '@coffer/core';

const months = [
  'january',
  'february',
  'march',
  'april',
  'may',
  'june',
  'july',
  'august',
  'september',
  'october',
  'november',
  'december',
];

/** The months as they are typed in short, January first. */
export const monthWords = months.map((month) => month.slice(0, 3));

function yearOf(text: string): number {
  return text.length === 2 ? 2000 + Number(text) : Number(text);
}

function existing(year: number, month: number, day: number): CalendarDay | undefined {
  if (month < 1 || month > 12 || day < 1 || day > daysInMonth(year, month)) return undefined;
  return calendarDay(year, month, day);
}

/** Two numbers of a date as month and day. */
function inOrder(
  dates: DateHabit,
  one: string | undefined,
  other: string | undefined,
): [month: number, day: number] {
  const [first, second] = [Number(one), Number(other)];
  return dates === 'month-first' ? [first, second] : [second, first];
}

/** The month of the year, 1 to 12, that a word of three letters or more is or begins; 0 for none. */
export function monthOf(word = ''): number {
  return word.length < 3 ? 0 : months.findIndex((month) => month.startsWith(word)) + 1;
}

/**
 * Reads a date as people type it: `2026-06-15`, `15 jun 26`, `15 June 2026`, `june 15, 2026`, `15.6.2026`, `jun 2026`
 * (its first day). Of numbers alone the day comes first, or the month where the company writes it first. Two-digit
 * years are of this century. With a day that it must lie near, the year may be left out: `28 oct` or `28.10.` is then
 * the closest one. `undefined` for what is no date or a date that does not exist.
 */
export function readDay(
  text: string,
  near?: CalendarDay,
  dates = habitsNow().dates,
): CalendarDay | undefined {
  const typed = text.trim().toLowerCase();
  const iso = parseDay(typed);
  if (iso !== undefined) return iso;
  const numbers = /^(\d{1,2})[./](\d{1,2})[./](\d{4}|\d{2})$/.exec(typed);
  if (numbers) return existing(yearOf(numbers[3] ?? ''), ...inOrder(dates, numbers[1], numbers[2]));
  const monthFirst = /^([a-z]{3,9})\.? ?(\d{1,2})(?:, ?| )(\d{4}|\d{2})$/.exec(typed);
  if (monthFirst) return existing(yearOf(monthFirst[3] ?? ''), monthOf(monthFirst[1]), Number(monthFirst[2]));
  const named = /^(?:(\d{1,2})[\s.-]*)?([a-z]{3,9})[\s.,-]*(\d{4}|\d{2})$/.exec(typed);
  if (!named) return near === undefined ? undefined : closestYear(typed, near, dates);
  return existing(yearOf(named[3] ?? ''), monthOf(named[2]), Number(named[1] ?? 1));
}

/** A date typed without its year, in the year that brings it closest to a day. */
function closestYear(typed: string, near: CalendarDay, dates: DateHabit): CalendarDay | undefined {
  const numbers = /^(\d{1,2})[./](\d{1,2})[./]?$/.exec(typed);
  const named = /^(\d{1,2})[\s.-]*([a-z]{3,9})$/.exec(typed);
  const [month, ofMonth] = numbers
    ? inOrder(dates, numbers[1], numbers[2])
    : [monthOf(named?.[2]), Number(named?.[1])];
  const { year } = calendarFields(near);
  const days = [year - 1, year, year + 1].flatMap((each) => existing(each, month, ofMonth) ?? []);
  return days.sort((a, b) => Math.abs(a - near) - Math.abs(b - near))[0];
}
