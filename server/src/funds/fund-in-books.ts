import { booksOff, proofsOf, type CalendarDay } from '@coffer/core';
import type { Worked } from '../instruments/known-instruments.ts';
import type { InBooks, Wrong } from '../verify/instrument-in-books.ts';
import { workedOutFund } from './known-fund.ts';

/** Looks at a fund's proofs, and holds the books of the closed months against its document. */
export function fundInBooks(
  { version, books }: InBooks,
  { month, booksFrom }: { readonly month: CalendarDay; readonly booksFrom: CalendarDay },
): Worked<Wrong> {
  return workedOutFund(version, ({ document, schedule }) => ({
    name: document.name,
    failing: proofsOf(schedule).find(({ holds }) => !holds)?.name,
    off: booksOff(schedule, month, booksFrom, books),
  }));
}
