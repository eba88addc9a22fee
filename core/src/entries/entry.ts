import type { CalendarDay } from '../calendar/calendar-day.ts';
import type { AccountRole } from './account-role.ts';
import type { Count, MinorUnits } from '../units/units.ts';

/** What made an entry. `opening` and `correction` bring an account to where it should stand. */
export const entryKinds = [
  'opening',
  'correction',
  'reversal',
  'issue',
  'payment',
  'coupon',
  'redemption',
  'accrual',
  'current-portion',
  'transfer',
] as const;

export type EntryKind = (typeof entryKinds)[number];

/** One line of an entry: one side is zero, the other more than zero. Minor units. */
export interface EntryLine {
  readonly account: AccountRole;
  readonly debit: MinorUnits;
  readonly credit: MinorUnits;
  /** The code of its account where that is not the one in force: what a transfer takes out of another. */
  readonly code?: string;
}

/** A balanced journal entry and what it comes from. */
export interface Entry {
  readonly date: CalendarDay;
  readonly kind: EntryKind;
  readonly memo: string;
  /** The payment or coupon number it comes from, where it comes from one. */
  readonly row: Count | null;
  readonly lines: readonly EntryLine[];
  /** Last day of the closed month whose figures it brings to where they should stand; of openings and corrections. */
  readonly belongsTo?: CalendarDay;
}

/** An amount for an account: a debit where positive, a credit where negative. */
export type Posting = readonly [account: AccountRole, amount: MinorUnits];

/**
 * An entry from signed postings, debits first, zero amounts left out; `undefined` when nothing is left.
 * Throws `RangeError` when the postings do not balance.
 */
export function entryOf(
  date: CalendarDay,
  kind: EntryKind,
  memo: string,
  row: Count | null,
  postings: readonly Posting[],
): Entry | undefined {
  const moved = postings.filter(([, amount]) => amount !== 0);
  const sum = moved.reduce((total, [, amount]) => total + amount, 0);
  if (sum !== 0) throw new RangeError(`The entry "${memo}" does not balance; it is off by ${sum}.`);
  if (moved.length === 0) return undefined;
  const lines = [...moved]
    .sort((a, b) => Number(a[1] < 0) - Number(b[1] < 0))
    .map(([account, amount]) => ({
      account,
      debit: Math.max(0, amount),
      credit: Math.max(0, -amount),
    }));
  return { date, kind, memo, row, lines };
}

/** Entries in order of date, on one day in the order of their kinds; those that came to nothing are left out. */
export function inOrder(found: readonly (Entry | undefined)[]): Entry[] {
  return found
    .filter((entry) => entry !== undefined)
    .sort((a, b) => a.date - b.date || entryKinds.indexOf(a.kind) - entryKinds.indexOf(b.kind));
}

/** The same entry with its sides exchanged, on another day. */
export function reversalOf(entry: Entry, date: CalendarDay): Entry {
  const lines = entry.lines.map(({ account, debit, credit }) => ({ account, debit: credit, credit: debit }));
  return {
    date,
    kind: 'reversal',
    memo: `Reversal: ${entry.memo}`,
    row: entry.row,
    lines: [...lines.filter((line) => line.debit > 0), ...lines.filter((line) => line.credit > 0)],
  };
}
