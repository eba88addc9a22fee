import { accountRoles, type AccountRole, type Entry } from '@coffer/core';
import { accountName } from '@coffer/contract';
import { Refusal } from '../http/refusal.ts';
import type { Accounts } from './accounts.ts';

/** Entries of one instrument. */
export interface OfInstrument {
  readonly instrumentId: string;
  readonly entries: readonly Entry[];
}

/** The roles that entries need and that have no account, in the order of the chart's roles. */
export function missingAccounts(accounts: Accounts, all: readonly OfInstrument[]): AccountRole[] {
  const missing = new Set<AccountRole>();
  for (const { instrumentId, entries } of all) {
    for (const { account } of entries.flatMap(({ lines }) => lines)) {
      if (!missing.has(account) && accounts.of(instrumentId, account) === undefined) missing.add(account);
    }
  }
  return accountRoles.filter((role) => missing.has(role));
}

/** Nothing is posted while a role lacks its account. Throws {@link Refusal} 409 naming all of them. */
export function refuseMissing(missing: readonly AccountRole[]): void {
  if (missing.length === 0) return;
  throw new Refusal(
    409,
    'no-account',
    `Nothing was done, because no account stands for ${missing.map((role) => accountName(role)).join(', ')}. Choose one for each in the chart of accounts first.`,
  );
}
