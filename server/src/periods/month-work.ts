import type { Knex } from 'knex';
import type { AccountRole, Balances } from '@coffer/core';
import type { Unworkable } from '@coffer/contract';
import { companyOf } from '../company/company-store.ts';
import { newestVersion, newestVersions } from '../instruments/instrument-store.ts';
import { madeOf } from '../instruments/known-instruments.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import type { MonthAsked, MonthOfInstrument } from './month-of-instrument.ts';
import { accrualChoicesOf, type PeriodRow } from './period-store.ts';

/** What closing a month makes of all instruments, in order of name, and those that cannot be worked out. */
export interface MonthWork {
  readonly work: readonly MonthOfInstrument[];
  readonly unworkable: readonly Unworkable[];
}

/** Works out the month of every instrument that has begun by its end; its proofs as well, where wanted. */
export async function monthWork(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  period: PeriodRow,
  proving: boolean,
): Promise<MonthWork> {
  const asked = await askedOf(database, companyId, period, proving);
  const stored = await newestVersions(database, companyId);
  const balances = await postedBalances(database, companyId);
  const items = stored.map((version) => ({ version, posted: balances.get(version.id) ?? none }));
  const work: MonthOfInstrument[] = [];
  const unworkable: Unworkable[] = [];
  for (const worked of await figures.each('month', asked, items)) {
    if ('unworkable' in worked) unworkable.push(worked.unworkable);
    else if (worked.made) work.push(worked.made);
  }
  return { work, unworkable };
}

/** The same for one instrument; nothing when the month makes nothing of it. Throws `NotWorkedOut`. */
export async function monthWorkOf(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  period: PeriodRow,
  id: string,
): Promise<MonthOfInstrument | undefined> {
  const asked = await askedOf(database, companyId, period, false);
  const version = await newestVersion(database, companyId, id);
  const posted = (await postedBalances(database, companyId, id)).get(id) ?? none;
  return madeOf(await figures.one('month', asked, { version, posted }));
}

const none: Balances = new Map();

async function askedOf(
  database: Knex,
  companyId: number,
  period: PeriodRow,
  proving: boolean,
): Promise<MonthAsked> {
  const choices = await accrualChoicesOf(database, companyId, period);
  const { booksFrom } = await companyOf(database, companyId);
  return { endsOn: period.ends_on, booksFrom, choices, proving };
}

/** What the books hold for each instrument, or for one, by account. */
async function postedBalances(
  database: Knex,
  companyId: number,
  only?: string,
): Promise<Map<string, Map<AccountRole, number>>> {
  const rows = await database('entry')
    .join('entry_line', (on) => {
      on.on('entry_line.company_id', 'entry.company_id').andOn('entry_line.number', 'entry.number');
    })
    .where({ 'entry.company_id': companyId, ...(only !== undefined && { instrument_id: only }) })
    .groupBy('instrument_id', 'role')
    .select<{ instrument_id: string; role: AccountRole; amount: string }[]>(
      'instrument_id',
      'role',
      database.raw('sum(debit::numeric - credit::numeric) as amount'),
    );
  const balances = new Map<string, Map<AccountRole, number>>();
  for (const { instrument_id: id, role, amount } of rows) {
    const ofInstrument = balances.get(id) ?? new Map<AccountRole, number>();
    balances.set(id, ofInstrument.set(role, Number(amount)));
  }
  return balances;
}
