import {
  cycleDate,
  cycleIndexOnOrAfter,
  paymentsPerYear,
  type CalendarDay,
  type Frequency,
} from '@coffer/core';
import { readDay } from './typed-day';

/** When the payments fall due that a term is made of. */
export interface TermOf {
  readonly every: Frequency;
  readonly keepMonthEnd: boolean;
  /** The first of them, where it is known. */
  readonly first: CalendarDay | undefined;
}

/** Parts of a year, by the letter that their word begins with. */
const inYear: Readonly<Record<string, number>> = { y: 1, q: 4, m: 12, w: 52 };

/**
 * The number of payments that a term means as people type it: `84`, `7 years`, `2.5 years`, `18 months`, `to 15 jun 34`
 * (the last one due by then). `undefined` for what is no term, or none that comes out even.
 */
export function readTerm(text: string, { every, keepMonthEnd, first }: TermOf): number | undefined {
  const typed = text.trim().toLowerCase().replace('½', '.5');
  if (/^\d{1,6}$/.test(typed)) return Number(typed);
  const long = /^(\d{1,4}(?:\.\d+)?)\s*(y|yrs?|years?|quarters?|m|months?|weeks?)$/.exec(typed);
  if (long) {
    const payments = (Number(long[1]) * paymentsPerYear[every]) / (inYear[(long[2] ?? '')[0] ?? ''] ?? 1);
    return Number.isInteger(payments) && payments > 0 ? payments : undefined;
  }
  const until = /^(?:to|until|till|through)\s+(.+)$/.exec(typed);
  const day = until ? readDay(until[1] ?? '') : undefined;
  if (day === undefined || first === undefined || day < first) return undefined;
  const cycle = { anchor: first, every, keepMonthEnd };
  const at = cycleIndexOnOrAfter(cycle, day);
  return cycleDate(cycle, at) === day ? at + 1 : at;
}
