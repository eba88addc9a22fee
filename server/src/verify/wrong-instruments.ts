import type { Knex } from 'knex';
import { formatAmount, formatDay, parseDay, unseen, type CalendarDay } from '@coffer/core';
import type { Company } from '../company/company-store.ts';
import { newestVersions } from '../instruments/instrument-store.ts';
import { reportedPositions } from '../instruments/reported-positions.ts';
import { booksOfInstruments } from '../periods/books-of-instruments.ts';
import { monthStart, openPeriod } from '../periods/period-store.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';

/** Documents against the books of the closed months, and their proofs. */
export async function wrongInstruments(
  database: Knex,
  figures: FigureThreads,
  company: Company,
): Promise<string[]> {
  const open = await openPeriod(database, company.id);
  if (!open) return [];
  // What a month reported nothing of had not begun or was settled: then the ledger holds nothing, which is looked at above.
  const last = formatDay(monthStart(open.ends_on) - 1);
  const reports = await reportedPositions(database, company.id, last);
  const books = await booksOfInstruments(database, company.id, open.ends_on);
  const month = parseDay(open.ends_on) as CalendarDay;
  const asked = { month, booksFrom: parseDay(company.booksFrom) as CalendarDay };
  const money = (minor: number): string => formatAmount(minor, company.digits);
  const inBooks = reports.flatMap(({ version, row: { name } }) => {
    const held = books.get(version.id);
    return held ? [{ name, item: { version, books: held } }] : [];
  });
  const wrong = await figures.each(
    'in-books',
    asked,
    inBooks.map(({ item }) => item),
  );
  const found = inBooks.flatMap(({ name }, at) => {
    const worked = wrong[at];
    if (!worked || 'unworkable' in worked) return [`${name}: it cannot be worked out any more.`];
    return worked.made.off.map(
      ([account, amount]) =>
        `${name}: the books hold ${money(amount)} too much in ${account} for its document.`,
    );
  });
  return [...found, ...(await failingProofs(database, figures, company, asked))];
}

async function failingProofs(
  database: Knex,
  figures: FigureThreads,
  company: Company,
  asked: { readonly month: CalendarDay; readonly booksFrom: CalendarDay },
): Promise<string[]> {
  const items = (await newestVersions(database, company.id)).map((version) => ({ version, books: unseen }));
  const proven = await figures.each('in-books', asked, items);
  return proven.flatMap((worked) => {
    if ('unworkable' in worked) return [`${worked.unworkable.name}: ${worked.unworkable.message}`];
    const { failing, name } = worked.made;
    return failing === undefined ? [] : [`${name}: a proof fails, not so is "${failing}".`];
  });
}
