import { showDay, showDecimal, showRate } from '@coffer/contract';

/** A rate of a document as people type it. */
export const percentOf = (rate: string | undefined): string => showRate(rate?.replace('%', '') ?? '');

/** An amount of a document as people type it. */
export const amountOf = (amount: string | undefined): string =>
  amount === undefined || amount === '?' ? (amount ?? '') : showDecimal(amount);

/** A day of a document as people type it. */
export const dayOf = (day: string | undefined): string => (day === undefined ? '' : showDay(day));

/** A count of a document as people type it. */
export const countOf = (count: string | number | undefined): string =>
  count === undefined ? '' : String(count);

/** By how much an amount of a document rises each year, as people type it. */
export const risesOf = (rises: string | undefined): string =>
  rises?.endsWith('%') ? showRate(rises) : amountOf(rises);
