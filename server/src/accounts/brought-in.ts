import type { Knex } from 'knex';
import { type CalendarDay, type Entry, type MinorUnits, parseDay } from '@coffer/core';
import { isOffTheLedger, type BroughtIn } from '@coffer/contract';
import { Refusal } from '../http/refusal.ts';
import { entryLines } from '../journal/entry-lines.ts';
import type { Accounts } from './accounts.ts';

/** Entries of an instrument that are not posted yet. */
interface Drafts {
  readonly instrumentId: string;
  readonly entries: readonly Entry[];
}

/** What each instrument brings into each account, by code and then by instrument; debits positive, minor units. */
export type BroughtByInstrument = ReadonlyMap<string, ReadonlyMap<string, number>>;

/**
 * What each instrument brings into each account on the first day of the books, posted and still to post.
 *
 * @param until last day of the month by whose close it was posted; all months where none is given
 */
export async function broughtByInstrument(
  database: Knex,
  companyId: number,
  booksFrom: string,
  accounts: Accounts,
  drafts: readonly Drafts[],
  until?: string,
): Promise<BroughtByInstrument> {
  const sums = new Map<string, Map<string, number>>();
  const add = (code: string, instrument: string, amount: number): void => {
    const of = sums.get(code) ?? new Map<string, number>();
    of.set(instrument, (of.get(instrument) ?? 0) + amount);
    sums.set(code, of);
  };
  const posted = await entryLines(database, companyId)
    .where({ kind: 'opening' })
    .whereNot({ role: 'opening-balances' })
    .where('for_period', '<', booksFrom)
    .where((posted) => void (until !== undefined && posted.where('period_end', '<=', until)))
    .groupBy('account_code', 'instrument_id')
    .select<{ code: string; instrument: string; amount: string }[]>(
      'account_code as code',
      'instrument_id as instrument',
      database.raw('sum(debit::numeric - credit::numeric) as amount'),
    );
  for (const { code, instrument, amount } of posted) add(code, instrument, Number(amount));
  const first = parseDay(booksFrom) as CalendarDay;
  for (const { instrumentId, entries } of drafts) {
    const openings = entries.filter(
      ({ kind, belongsTo }) => kind === 'opening' && belongsTo !== undefined && belongsTo < first,
    );
    for (const { account, debit, credit } of openings.flatMap(({ lines }) => lines)) {
      if (account === 'opening-balances') continue;
      const { code } = accounts.named(accounts.of(instrumentId, account)?.code, account);
      add(code, instrumentId, debit - credit);
    }
  }
  return sums;
}

/** What instruments bring into each account, beside what the ledger held the day before. */
export async function broughtIn(
  database: Knex,
  companyId: number,
  brought: BroughtByInstrument,
): Promise<BroughtIn[]> {
  const ledger = await database('ledger_balance').where({ company_id: companyId }).select('code', 'balance');
  const held = new Map(ledger.map(({ code, balance }) => [code, balance]));
  return [...new Set([...brought.keys(), ...held.keys()])]
    .sort((one, other) => one.localeCompare(other))
    .map((code) => {
      const amounts = [...(brought.get(code)?.values() ?? [])];
      const sum = amounts.reduce((total, amount) => total + amount, 0);
      return { code, brought: sum, ledger: held.get(code) ?? null };
    });
}

/** No month is locked while what is brought in does not tie to the ledger. Throws {@link Refusal} 409 with each account. */
export function refuseUntied(all: readonly BroughtIn[], money: (minor: MinorUnits) => string): void {
  const off = all.filter(isOffTheLedger);
  if (off.length === 0) return;
  const said = off.map(
    ({ code, brought, ledger }) =>
      `${code}: ${money(brought)} brought in by the instruments, ${money(ledger ?? 0)} in the ledger`,
  );
  throw new Refusal(
    409,
    'not-tied',
    `Nothing was done, because what is brought in on the first day of the books is not what the ledger held. ${said.join('; ')}.`,
  );
}
