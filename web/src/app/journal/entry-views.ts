import { formatDay, type Entry } from '@coffer/core';
import type { EntryView } from '@coffer/contract';
import { accountName } from './account-names';

/** Entries worked out in the browser as the lists of entries show them: not posted, accounts by their roles. */
export function entryViews(entries: readonly Entry[]): EntryView[] {
  return entries.map((entry) => ({
    ...entry,
    date: formatDay(entry.date),
    number: null,
    instrumentId: '',
    instrument: '',
    lines: entry.lines.map(({ account, debit, credit }) => ({
      role: account,
      code: '',
      account: accountName(account),
      debit,
      credit,
    })),
  }));
}
