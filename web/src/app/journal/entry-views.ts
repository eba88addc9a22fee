import { formatDay, type Entry } from '@coffer/core';
import type { CompanyView, EntryView } from '@coffer/contract';

import { accountName } from './account-names';

/** What a company calls its accounts. */
export type AccountNames = CompanyView['accounts'];

/** An entry as lists show it, posted or not. */
export type ListedEntry = Omit<EntryView, 'version' | 'forPeriod'>;

/** Entries worked out in the browser as the lists of entries show them: not posted, accounts as the company's. */
export function entryViews(entries: readonly Entry[], accounts: AccountNames): ListedEntry[] {
  return entries.map((entry) => ({
    ...entry,
    date: formatDay(entry.date),
    number: null,
    instrumentId: '',
    instrument: '',
    lines: entry.lines.map(({ account, debit, credit }) => {
      const own = accounts.find(({ role }) => role === account);
      return {
        role: account,
        code: own?.code ?? '',
        account: own?.name ?? accountName(account),
        debit,
        credit,
      };
    }),
  }));
}
