import { addMonths, calendarDay, calendarFields, monthEnd, type CalendarDay } from '@coffer/core';
import { showDay } from '@coffer/contract';
import { readDay } from '../../typed/typed-day';
import type { StretchRows } from './stretch-rows';

/** A stretch of a schedule that can be added up: rows from one to another (not included), and its days. */
export interface ChosenStretch {
  readonly name: string;
  readonly from: number;
  readonly end: number;
}

/** What a stretch comes to: its payments or coupons, the sums of its columns, and where it ends. Minor units. */
export interface StretchSums {
  readonly count: number;
  readonly totals: Readonly<Record<string, number>>;
  readonly closing: number;
}

/** Rows dated from one day to another, both included. */
function rowsBetween(
  { length, day }: StretchRows,
  from: CalendarDay,
  to: CalendarDay,
): { from: number; end: number } {
  let first = 0;
  while (first < length && day(first) < from) first += 1;
  let end = first;
  while (end < length && day(end) <= to) end += 1;
  return { from: first, end };
}

/** The stretches offered: all of it, to date, and each fiscal and calendar year of the instrument's life. */
export function offeredStretches(
  rows: StretchRows,
  on: CalendarDay,
  fiscalYearEndMonth: number,
): ChosenStretch[] {
  const { length, day } = rows;
  if (length === 0) return [];
  const [first, last] = [day(0), day(length - 1)];
  const years = (month: number, name: (year: number) => string): ChosenStretch[] => {
    const found: ChosenStretch[] = [];
    const begins = calendarFields(first).year;
    for (let year = begins; year <= calendarFields(last).year + 1; year += 1) {
      const to = monthEnd(calendarDay(year, month, 1));
      const ofYear = rowsBetween(rows, addMonths(to, -12, true) + 1, to);
      if (ofYear.end > ofYear.from) found.push({ name: name(year), ...ofYear });
    }
    return found;
  };
  return [
    { name: 'Whole schedule', from: 0, end: length },
    { name: `To ${showDay(on)}`, ...rowsBetween(rows, first, on) },
    ...years(fiscalYearEndMonth, (year) => `Fiscal ${year}`),
    ...(fiscalYearEndMonth === 12 ? [] : years(12, (year) => `Calendar ${year}`)),
  ];
}

/**
 * A year as typed: `year 2` of the instrument's life, `2028` or `calendar 2028`, `fy 2028` or `fiscal 2028`; `undefined`
 * where it is none, or none of the instrument's.
 */
function typedYear(rows: StretchRows, typed: string, fiscalYearEndMonth: number): ChosenStretch | undefined {
  const text = typed.toLowerCase();
  const ofLife = /^year\s+(\d{1,3})$/.exec(text);
  const between = (name: string, from: CalendarDay, to: CalendarDay): ChosenStretch | undefined => {
    const found = rowsBetween(rows, from, to);
    return found.end > found.from ? { name, ...found } : undefined;
  };
  if (ofLife) {
    const year = Number(ofLife[1]);
    const from = addMonths(rows.begins, 12 * (year - 1), false);
    return between(`Year ${year}`, from + 1, addMonths(rows.begins, 12 * year, false));
  }
  const named = /^(fy|fiscal|calendar|cy)?\s*(\d{4})$/.exec(text);
  if (!named) return undefined;
  const fiscal = named[1] === 'fy' || named[1] === 'fiscal';
  const to = monthEnd(calendarDay(Number(named[2]), fiscal ? fiscalYearEndMonth : 12, 1));
  return between(`${fiscal ? 'Fiscal' : 'Calendar'} ${named[2]}`, addMonths(to, -12, true) + 1, to);
}

/**
 * A stretch as typed: payments such as `13-24`, a year such as `fiscal 2028`, or days such as `1 jan 26 - 30 jun 26`;
 * `undefined` if it is none of them.
 */
export function typedStretch(
  rows: StretchRows,
  typed: string,
  fiscalYearEndMonth = 12,
): ChosenStretch | undefined {
  const span = /^(\d+)\s*(?:-|–|to)\s*(\d+)$/.exec(typed.trim());
  if (span) {
    const [a, b] = [Number(span[1]), Number(span[2])];
    const numbers = Array.from({ length: rows.length }, (_, row) => rows.number(row));
    const from = numbers.indexOf(a);
    const to = numbers.lastIndexOf(b);
    const name = `${rows.numbered.charAt(0).toUpperCase()}${rows.numbered.slice(1)} ${a} to ${b}`;
    return from < 0 || to < from ? undefined : { name, from, end: to + 1 };
  }
  const year = typedYear(rows, typed.trim(), fiscalYearEndMonth);
  if (year) return year;
  const days = /^(.+?)\s+(?:-|–|to)\s+(.+)$/.exec(typed.trim());
  const [from, to] = [readDay(days?.[1] ?? ''), readDay(days?.[2] ?? '')];
  if (from === undefined || to === undefined || to < from) return undefined;
  return { name: `${showDay(from)} to ${showDay(to)}`, ...rowsBetween(rows, from, to) };
}

/** A stretch added up. */
export function sumsOf(rows: StretchRows, { from, end }: Pick<ChosenStretch, 'from' | 'end'>): StretchSums {
  const totals = rows.columns.map(({ key }) => [key, rows.total(key, from, end)] as const);
  return { count: rows.count(from, end), totals: Object.fromEntries(totals), closing: rows.closing(end) };
}

/** The row that is meant by a payment number, a date, or a word for the end; `undefined` if none is. */
export function meantRow(rows: StretchRows, typed: string, on: CalendarDay): number | undefined {
  const text = typed.trim().toLowerCase();
  const { length, day, number } = rows;
  if (length === 0) return undefined;
  if (['payoff', 'maturity', 'end', 'last'].includes(text)) return length - 1;
  if (/^\d{1,4}$/.test(text)) {
    for (let row = 0; row < length; row += 1) if (number(row) === Number(text)) return row;
    return undefined;
  }
  const meant = /^as[ -]?of$/.test(text) ? on : readDay(text);
  if (meant === undefined) return undefined;
  let row = 0;
  while (row < length - 1 && day(row) < meant) row += 1;
  return row;
}
