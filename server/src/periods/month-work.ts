import type { Knex } from 'knex';
import { parseDay, unseen, withdrawalEntries, type Books, type CalendarDay } from '@coffer/core';
import type { Unworkable } from '@coffer/contract';
import { companyOf } from '../company/company-store.ts';
import { newestVersion, newestVersions, withdrawnVersions } from '../instruments/instrument-store.ts';
import { documentOf, madeOf, type StoredVersion, type Worked } from '../instruments/known-instruments.ts';
import { noFigures } from '../instruments/reported-positions.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { booksOfInstruments, monthByMonth } from './books-of-instruments.ts';
import { isHeld, type MonthAsked, type MonthOfInstrument, type MonthPart } from './month-of-instrument.ts';
import type { PeriodRow } from '../database/tables.ts';
import { accrualChoicesOf } from './period-store.ts';

/** What closing a month makes of all instruments, in order of name, and those that cannot be worked out. */
export interface MonthWork {
  readonly work: readonly MonthOfInstrument[];
  /** Instruments that were settled before, and need nothing. */
  readonly settled: number;
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
  const stored = await newestVersions(database, companyId);
  const books = await booksOfInstruments(database, companyId, period.ends_on);
  const parts = await partsOf(database, figures, companyId, period, { stored, books, proving });
  const work = await withdrawnWork(database, companyId, period, books);
  const unworkable: Unworkable[] = [];
  let settled = 0;
  for (const worked of parts) {
    if ('unworkable' in worked) unworkable.push(worked.unworkable);
    else if (worked.made === 'settled') settled += 1;
    else if (typeof worked.made === 'object') work.push(worked.made);
  }
  return { work, settled, unworkable };
}

/** What takes instruments that were withdrawn out of the books. */
async function withdrawnWork(
  database: Knex,
  companyId: number,
  period: PeriodRow,
  books: ReadonlyMap<string, Books>,
): Promise<MonthOfInstrument[]> {
  const held = (await withdrawnVersions(database, companyId)).filter(({ id }) =>
    isHeld(books.get(id) ?? unseen),
  );
  if (held.length === 0) return [];
  const ids = held.map(({ id }) => id);
  const apart = await monthByMonth(database, companyId, period.ends_on, books, ids);
  const { before } = await accrualChoicesOf(database, companyId, period);
  const end = parseDay(period.ends_on) as CalendarDay;
  return held.map((version) => ({
    inPeriod: withdrawalEntries(end, apart.get(version.id) ?? unseen, before),
    opening: undefined,
    row: {
      id: version.id,
      name: documentOf(version).name,
      version: version.version,
      figures: noFigures,
      expense: 0,
      amortized: 0,
      currentChange: 0,
    },
    payments: { due: 0, recorded: 0 },
    unrecorded: [],
    attention: [],
    withdrawn: true,
  }));
}

/** The same for one instrument; nothing when the month makes nothing of it. Throws `NotWorkedOut`. */
export async function monthWorkOf(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  period: PeriodRow,
  id: string,
): Promise<MonthOfInstrument | undefined> {
  const stored = [await newestVersion(database, companyId, id)];
  const books = await booksOfInstruments(database, companyId, period.ends_on, id);
  const withdrawn = (await withdrawnVersions(database, companyId)).some((version) => version.id === id);
  if (withdrawn) return (await withdrawnWork(database, companyId, period, books))[0];
  const [part] = await partsOf(database, figures, companyId, period, { stored, books, proving: false });
  const made = part && madeOf(part);
  return typeof made === 'object' ? made : undefined;
}

interface Wanted {
  readonly stored: readonly StoredVersion[];
  readonly books: ReadonlyMap<string, Books>;
  readonly proving: boolean;
}

/** Works out the instruments; those whose books are to be corrected once more, with their months one by one. */
async function partsOf(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  period: PeriodRow,
  { stored, books, proving }: Wanted,
): Promise<Worked<MonthPart>[]> {
  const { booksFrom } = await companyOf(database, companyId);
  const choices = await accrualChoicesOf(database, companyId, period);
  const asked: MonthAsked = { endsOn: period.ends_on, booksFrom, choices, proving };
  const items = stored.map((version) => ({ version, books: books.get(version.id) ?? unseen, apart: false }));
  const parts = await figures.each('month', asked, items);
  const again = items.filter((_, at) => {
    const part = parts[at];
    return part !== undefined && 'made' in part && part.made === 'months-wanted';
  });
  if (again.length === 0) return parts;
  const ids = again.map(({ version }) => version.id);
  const apart = await monthByMonth(database, companyId, period.ends_on, books, ids);
  const corrected = await figures.each(
    'month',
    asked,
    again.map(({ version }) => ({ version, books: apart.get(version.id) ?? unseen, apart: true })),
  );
  const partOf = new Map(ids.map((id, at) => [id, corrected[at] as Worked<MonthPart>]));
  return items.map(({ version }, at) => partOf.get(version.id) ?? (parts[at] as Worked<MonthPart>));
}
