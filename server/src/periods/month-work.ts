import type { Knex } from 'knex';
import { parseDay, unseen, withdrawalEntries, type Books, type CalendarDay, type Entry } from '@coffer/core';
import { isOwed, type Unworkable } from '@coffer/contract';
import { accountsOf } from '../accounts/accounts.ts';
import { transfersDue } from '../accounts/transfers.ts';
import { companyOf } from '../company/company-store.ts';
import type { MonthOfFund } from '../funds/month-of-fund.ts';
import {
  newestFunds,
  newestVersion,
  newestVersions,
  withdrawnVersions,
} from '../instruments/instrument-store.ts';
import { anyDocumentOf, madeOf, nameOf, type StoredVersion } from '../instruments/known-instruments.ts';
import { noFigures } from '../instruments/reported-positions.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { booksOfInstruments, monthByMonth } from './books-of-instruments.ts';
import {
  isHeld,
  type BookedInstrument,
  type MonthAsked,
  type MonthOfInstrument,
} from './month-of-instrument.ts';
import type { AskedOf, ItemOf, MadeOf } from '../workers/works.ts';
import type { PeriodRow } from '../database/tables.ts';
import { smallIds, withoutAccrual, type EntriesOfMonth } from './left-out.ts';
import { materialityOf } from './left-out-store.ts';
import { accrualChoicesOf } from './period-store.ts';

/** What closing a month makes of everything owed and of all funds, in order of name, and what cannot be worked out. */
export interface MonthWork {
  readonly work: readonly MonthOfInstrument[];
  readonly funds: readonly MonthOfFund[];
  /** Instruments that were settled before, and need nothing. */
  readonly settled: number;
  readonly unworkable: readonly Unworkable[];
  /** Those whose accrual is too small to be booked. */
  readonly leftOut: ReadonlySet<string>;
}

/** Works out the month of every instrument that has begun by its end; its proofs as well, where wanted. */
export async function monthWork(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  period: PeriodRow,
  proving: boolean,
): Promise<MonthWork> {
  const stored = await newestVersions(database, companyId);
  const books = await booksOfInstruments(database, companyId, period.ends_on);
  const parts = await partsOf(database, figures, companyId, period, 'month', { stored, books, proving });
  const work = await withdrawnWork(database, companyId, period, books);
  const unworkable: Unworkable[] = [];
  let settled = 0;
  for (const worked of parts) {
    if ('unworkable' in worked) unworkable.push(worked.unworkable);
    else if (worked.made === 'settled') settled += 1;
    else if (typeof worked.made === 'object') work.push(worked.made);
  }
  const held = await newestFunds(database, companyId);
  const wanted = { stored: held, books, proving };
  const funds = await withdrawnFunds(database, companyId, period, books);
  for (const worked of await partsOf(database, figures, companyId, period, 'fund-month', wanted)) {
    if ('unworkable' in worked) unworkable.push(worked.unworkable);
    else if (typeof worked.made === 'object') funds.push(worked.made);
  }
  const accounts = await accountsOf(database, companyId);
  const transfers = await transfersDue(database, companyId, period.ends_on, accounts);
  const materiality = await materialityOf(database, companyId, period.ends_on);
  const all = [
    ...work.map((done) => [done.row.id, done] as const),
    ...funds.map((done) => [done.fund.id, done] as const),
  ];
  const small = smallIds(all, materiality);
  const booked = <Done extends EntriesOfMonth>(id: string, done: Done): Done =>
    withTransfer(small.has(id) ? withoutAccrual(done) : done, transfers.get(id));
  return {
    work: work.map((done) => booked(done.row.id, done)),
    funds: funds.map((done) => booked(done.fund.id, done)),
    settled,
    unworkable,
    leftOut: small,
  };
}

/** The same work, with what moves balances to the accounts in force first. */
function withTransfer<Done extends { readonly inPeriod: readonly Entry[] }>(
  done: Done,
  transfer: Entry | undefined,
): Done {
  return transfer ? { ...done, inPeriod: [transfer, ...done.inPeriod] } : done;
}

/** What is withdrawn and stands in the books, with the entries that take it out of them. */
async function withdrawnEntries(
  database: Knex,
  companyId: number,
  period: PeriodRow,
  books: ReadonlyMap<string, Books>,
  kind: 'debt' | 'fund',
): Promise<{ version: StoredVersion; inPeriod: Entry[]; opening: undefined; withdrawn: true }[]> {
  const held = (await withdrawnVersions(database, companyId, kind)).filter(({ id }) =>
    isHeld(books.get(id) ?? unseen),
  );
  if (held.length === 0) return [];
  const ids = held.map(({ id }) => id);
  const apart = await monthByMonth(database, companyId, period.ends_on, books, ids);
  const { before } = await accrualChoicesOf(database, companyId, period);
  const end = parseDay(period.ends_on) as CalendarDay;
  return held.map((version) => ({
    version,
    inPeriod: withdrawalEntries(end, apart.get(version.id) ?? unseen, before),
    opening: undefined,
    withdrawn: true,
  }));
}

/** What takes instruments that were withdrawn out of the books. */
async function withdrawnWork(
  database: Knex,
  companyId: number,
  period: PeriodRow,
  books: ReadonlyMap<string, Books>,
): Promise<MonthOfInstrument[]> {
  const out = await withdrawnEntries(database, companyId, period, books, 'debt');
  return out.map(({ version, ...entries }) => ({
    ...entries,
    row: {
      id: version.id,
      name: nameOf(version),
      version: version.version,
      figures: noFigures,
      expense: 0,
      amortized: 0,
      currentChange: 0,
    },
    payments: { due: 0, recorded: 0 },
    unrecorded: [],
    attention: [],
  }));
}

/** What takes funds that were withdrawn out of the books. */
async function withdrawnFunds(
  database: Knex,
  companyId: number,
  period: PeriodRow,
  books: ReadonlyMap<string, Books>,
): Promise<MonthOfFund[]> {
  const out = await withdrawnEntries(database, companyId, period, books, 'fund');
  return out.map(({ version, ...entries }) => ({
    ...entries,
    fund: {
      id: version.id,
      name: nameOf(version),
      version: version.version,
      figures: { balance: 0, accruedInterest: 0, deposited: 0, earned: 0, toGoal: 0 },
    },
  }));
}

/** What closing the month makes of one instrument or fund; nothing when it makes nothing of it. Throws `NotWorkedOut`. */
export async function monthEntriesOf(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  period: PeriodRow,
  id: string,
): ReturnType<typeof ownEntriesOf> {
  const made = await ownEntriesOf(database, figures, companyId, period, id);
  if (!made) return undefined;
  const accounts = await accountsOf(database, companyId);
  return withTransfer(made, (await transfersDue(database, companyId, period.ends_on, accounts, id)).get(id));
}

async function ownEntriesOf(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  period: PeriodRow,
  id: string,
): Promise<
  | {
      readonly inPeriod: readonly Entry[];
      readonly of: { readonly id: string; readonly name: string; readonly version: number };
    }
  | undefined
> {
  const stored = [await newestVersion(database, companyId, id)];
  const books = await booksOfInstruments(database, companyId, period.ends_on, id);
  for (const made of [
    ...(await withdrawnWork(database, companyId, period, books)).map((done) => ({ ...done, of: done.row })),
    ...(await withdrawnFunds(database, companyId, period, books)).map((done) => ({ ...done, of: done.fund })),
  ]) {
    if (made.of.id === id) return made;
  }
  if (await isWithdrawn(database, companyId, id)) return undefined;
  // Whether a small accrual is booked, those of all the others decide.
  const bookedOf = async (made: EntriesOfMonth): Promise<readonly Entry[]> => {
    if (!made.small) return made.inPeriod;
    const { leftOut } = await monthWork(database, figures, companyId, period, false);
    return (leftOut.has(id) ? withoutAccrual(made) : made).inPeriod;
  };
  const wanted = { stored, books, proving: false };
  if (isOwed(anyDocumentOf(stored[0] as StoredVersion))) {
    const [part] = await partsOf(database, figures, companyId, period, 'month', wanted);
    const made = part && madeOf(part);
    if (typeof made !== 'object') return undefined;
    return { inPeriod: await bookedOf(made), of: made.row };
  }
  const [part] = await partsOf(database, figures, companyId, period, 'fund-month', wanted);
  const made = part && madeOf(part);
  if (typeof made !== 'object') return undefined;
  return { inPeriod: await bookedOf(made), of: made.fund };
}

async function isWithdrawn(database: Knex, companyId: number, id: string): Promise<boolean> {
  const found = await database('instrument').where({ company_id: companyId, id }).first('withdrawn_at');
  return found !== undefined && found.withdrawn_at !== null;
}

interface Wanted {
  readonly stored: readonly StoredVersion[];
  readonly books: ReadonlyMap<string, Books>;
  readonly proving: boolean;
}

/** Works out the instruments or funds; those whose books are to be corrected once more, with their months one by one. */
async function partsOf<Work extends 'month' | 'fund-month'>(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  period: PeriodRow,
  work: Work,
  { stored, books, proving }: Wanted,
): Promise<MadeOf<Work>[]> {
  const { booksFrom } = await companyOf(database, companyId);
  const choices = await accrualChoicesOf(database, companyId, period);
  const materiality = await materialityOf(database, companyId, period.ends_on);
  const asked: MonthAsked = { endsOn: period.ends_on, booksFrom, choices, materiality, proving };
  const each = (items: readonly BookedInstrument[]): Promise<MadeOf<Work>[]> =>
    figures.each(work, asked as AskedOf<Work>, items as readonly ItemOf<Work>[]);
  const items = stored.map((version) => ({ version, books: books.get(version.id) ?? unseen, apart: false }));
  const parts = await each(items);
  const again = items.filter((_, at) => {
    const part = parts[at];
    return part !== undefined && 'made' in part && part.made === 'months-wanted';
  });
  if (again.length === 0) return parts;
  const ids = again.map(({ version }) => version.id);
  const apart = await monthByMonth(database, companyId, period.ends_on, books, ids);
  const corrected = await each(
    again.map(({ version }) => ({ version, books: apart.get(version.id) ?? unseen, apart: true })),
  );
  const partOf = new Map(ids.map((id, at) => [id, corrected[at]]));
  return items.map(({ version }, at) => (partOf.get(version.id) ?? parts[at]) as MadeOf<Work>);
}
