import { booksOff, type Books, type CalendarDay } from '@coffer/core';
import {
  failingProof,
  workedOut,
  type StoredVersion,
  type Worked,
} from '../instruments/known-instruments.ts';

/** An instrument in the version that the last closed month reported, with what the closed months hold of it. */
export interface InBooks {
  readonly version: StoredVersion;
  readonly books: Books;
}

/** What is wrong with an instrument in the books. */
export interface Wrong {
  readonly name: string;
  /** A proof of its schedule that does not hold. */
  readonly failing: string | undefined;
  /** Accounts in which the books hold otherwise than its document says; too much is positive. Minor units. */
  readonly off: readonly (readonly [account: string, amount: number])[];
}

/** Looks at an instrument's proofs, and holds the books of the closed months against its document. */
export function instrumentInBooks(
  { version, books }: InBooks,
  { month, booksFrom }: { readonly month: CalendarDay; readonly booksFrom: CalendarDay },
): Worked<Wrong> {
  return workedOut(version, (instrument) => ({
    name: instrument.document.name,
    failing: failingProof(instrument)?.name,
    off: booksOff(instrument.schedule, month, booksFrom, books),
  }));
}
