import { accountRoles, type AccountRole } from './account-role.ts';
import type { Entry, Posting } from './entry.ts';
import type { MinorUnits } from '../units/units.ts';

/**
 * Sums of entries by account, debits positive, credits negative. Minor units; accounts at zero included.
 *
 * @example
 * balancesOf(entriesOnDay(loan, day('2025-02-01'))).get('interest-expense') // 1_000
 */
export function balancesOf(found: readonly Entry[]): Map<AccountRole, MinorUnits> {
  const balances = new Map<AccountRole, MinorUnits>();
  for (const entry of found) {
    for (const { account, debit, credit } of entry.lines) {
      balances.set(account, (balances.get(account) ?? 0) + debit - credit);
    }
  }
  return balances;
}

/**
 * What must be posted to get from one set of balances to another, in the order of {@link accountRoles}: in whatever order
 * the balances were summed, the same is posted in the same order.
 */
export function difference(
  from: ReadonlyMap<AccountRole, MinorUnits>,
  to: ReadonlyMap<AccountRole, MinorUnits>,
): Posting[] {
  return accountRoles
    .map((account): Posting => [account, (to.get(account) ?? 0) - (from.get(account) ?? 0)])
    .filter(([, amount]) => amount !== 0);
}
