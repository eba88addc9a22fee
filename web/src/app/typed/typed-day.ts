import { calendarDay, daysInMonth, parseDay, type CalendarDay } from '@coffer/core';

const months = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];

function yearOf(text: string): number {
  return text.length === 2 ? 2000 + Number(text) : Number(text);
}

function existing(year: number, month: number, day: number): CalendarDay | undefined {
  if (month < 1 || month > 12 || day < 1 || day > daysInMonth(year, month)) return undefined;
  return calendarDay(year, month, day);
}

/**
 * Reads a date as people type it: `2026-06-15`, `15 jun 26`, `15 June 2026`, `15.6.2026`, `jun 2026` (its first
 * day). Two-digit years are of this century. `undefined` for what is no date or a date that does not exist.
 */
export function readDay(text: string): CalendarDay | undefined {
  const typed = text.trim().toLowerCase();
  const iso = parseDay(typed);
  if (iso !== undefined) return iso;
  const dotted = /^(\d{1,2})[./](\d{1,2})[./](\d{4}|\d{2})$/.exec(typed);
  if (dotted) return existing(yearOf(dotted[3] ?? ''), Number(dotted[2]), Number(dotted[1]));
  const named = /^(?:(\d{1,2})[\s.-]*)?([a-z]{3,9})[\s.,-]*(\d{4}|\d{2})$/.exec(typed);
  if (!named) return undefined;
  const month = months.indexOf((named[2] ?? '').slice(0, 3)) + 1;
  return existing(yearOf(named[3] ?? ''), month, Number(named[1] ?? 1));
}
