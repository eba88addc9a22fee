import { formatDay, type Entry } from '@coffer/core';
import { accountName, type CompanyView, type EntryView } from '@coffer/contract';

/** The accounts that entries go to: a company's by role, or an instrument's, which may be its own. */
export type AccountNames = readonly CompanyView['accounts'][number][];

/** An entry as lists show it, posted or not. */
export type ListedEntry = Omit<EntryView, 'version' | 'forPeriod' | 'costCentre'>;

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
