import { formatAmount, formatDay, type AccountRole, type Entry } from '@coffer/core';

/** A journal entry in its published form; amounts are strings with the currency's decimals. */
export interface EntryJson {
  readonly date: string;
  readonly memo: string;
  readonly lines: readonly {
    readonly account: AccountRole;
    readonly debit: string;
    readonly credit: string;
  }[];
}

/** Entries in the published form. */
export function entriesJson(found: readonly Entry[], digits: number): EntryJson[] {
  return found.map((entry) => ({
    date: formatDay(entry.date),
    memo: entry.memo,
    lines: entry.lines.map((line) => ({
      account: line.account,
      debit: formatAmount(line.debit, digits),
      credit: formatAmount(line.credit, digits),
    })),
  }));
}
