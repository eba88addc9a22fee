import {
  addMonths,
  calendarDay,
  calendarFields,
  monthEnd,
  totalOf,
  type CalendarDay,
  type LoanSchedule,
} from '@coffer/core';
import { showDay } from '@coffer/contract';
import { readDay } from '../typed/typed-day';

/** A stretch of a schedule that can be added up: rows from one to another (not included), and its days. */
export interface ChosenStretch {
  readonly name: string;
  readonly from: number;
  readonly end: number;
}

/** What a stretch comes to. Minor units. */
export interface StretchSums {
  readonly payments: number;
  readonly payment: number;
  readonly interest: number;
  readonly principal: number;
  readonly extra: number;
  readonly closing: number;
}

/** Rows dated from one day to another, both included. */
function rowsBetween(
  schedule: LoanSchedule,
  from: CalendarDay,
  to: CalendarDay,
): { from: number; end: number } {
  const { date, length } = schedule;
  let first = 0;
  while (first < length && (date[first] as number) < from) first += 1;
  let end = first;
  while (end < length && (date[end] as number) <= to) end += 1;
  return { from: first, end };
}

/** The stretches offered: all of it, to date, and each fiscal and calendar year of the loan's life. */
export function offeredStretches(
  schedule: LoanSchedule,
  on: CalendarDay,
  fiscalYearEndMonth: number,
): ChosenStretch[] {
  const { date, length } = schedule;
  if (length === 0) return [];
  const [first, last] = [date[0] as number, date[length - 1] as number];
  const years = (month: number, name: (year: number) => string): ChosenStretch[] => {
    const found: ChosenStretch[] = [];
    const begins = calendarFields(first).year;
    for (let year = begins; year <= calendarFields(last).year + 1; year += 1) {
      const to = monthEnd(calendarDay(year, month, 1));
      const rows = rowsBetween(schedule, addMonths(to, -12, true) + 1, to);
      if (rows.end > rows.from) found.push({ name: name(year), ...rows });
    }
    return found;
  };
  return [
    { name: 'Whole schedule', from: 0, end: length },
    { name: `To ${showDay(on)}`, ...rowsBetween(schedule, first, on) },
    ...years(fiscalYearEndMonth, (year) => `Fiscal ${year}`),
    ...(fiscalYearEndMonth === 12 ? [] : years(12, (year) => `Calendar ${year}`)),
  ];
}

/** A stretch as typed: payments such as `13-24`, or days such as `1 jan 26 - 30 jun 26`; `undefined` if neither. */
export function typedStretch(schedule: LoanSchedule, typed: string): ChosenStretch | undefined {
  const numbers = /^(\d+)\s*(?:-|–|to)\s*(\d+)$/.exec(typed.trim());
  if (numbers) {
    const [a, b] = [Number(numbers[1]), Number(numbers[2])];
    const numbered = schedule.n.subarray(0, schedule.length);
    const from = numbered.indexOf(a);
    const to = numbered.lastIndexOf(b);
    return from < 0 || to < from ? undefined : { name: `Payments ${a} to ${b}`, from, end: to + 1 };
  }
  const days = /^(.+?)\s+(?:-|–|to)\s+(.+)$/.exec(typed.trim());
  const [from, to] = [readDay(days?.[1] ?? ''), readDay(days?.[2] ?? '')];
  if (from === undefined || to === undefined || to < from) return undefined;
  return { name: `${showDay(from)} to ${showDay(to)}`, ...rowsBetween(schedule, from, to) };
}

/** A stretch added up. */
export function sumsOf(schedule: LoanSchedule, { from, end }: ChosenStretch): StretchSums {
  let payments = 0;
  for (let row = from; row < end; row += 1) if ((schedule.n[row] as number) > 0) payments += 1;
  const closing = end > 0 ? schedule.closing[end - 1] : schedule.terms.amount;
  return {
    payments,
    payment: totalOf(schedule, 'payment', from, end),
    interest: totalOf(schedule, 'interest', from, end),
    principal: totalOf(schedule, 'principal', from, end),
    extra: totalOf(schedule, 'extra', from, end),
    closing: closing ?? 0,
  };
}

/** The row that is meant by a payment number, a date, or a word for the end; `undefined` if none is. */
export function meantRow(schedule: LoanSchedule, typed: string, on: CalendarDay): number | undefined {
  const text = typed.trim().toLowerCase();
  const { n, date, length } = schedule;
  if (length === 0) return undefined;
  if (['payoff', 'end', 'last'].includes(text)) return length - 1;
  if (/^\d{1,4}$/.test(text)) {
    const row = n.subarray(0, length).indexOf(Number(text));
    return row < 0 ? undefined : row;
  }
  const day = /^as[ -]?of$/.test(text) ? on : readDay(text);
  if (day === undefined) return undefined;
  let row = 0;
  while (row < length - 1 && (date[row] as number) < day) row += 1;
  return row;
}
