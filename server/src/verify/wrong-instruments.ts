import type { Knex } from 'knex';
import { type CalendarDay, formatAmount, formatDay, type MinorUnits, parseDay, unseen } from '@coffer/core';
import type { Company } from '../company/company-store.ts';
import { reportedFunds } from '../funds/reported-funds.ts';
import { newestFunds, newestVersions } from '../instruments/instrument-store.ts';
import { reportedPositions } from '../instruments/reported-positions.ts';
import type { StoredVersion } from '../instruments/known-instruments.ts';
import type { InBooks } from './instrument-in-books.ts';
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
  const money = (minor: MinorUnits): string => formatAmount(minor, company.digits);
  const funds = await reportedFunds(database, company.id, last);
  const withBooks = (version: StoredVersion, name: string): { name: string; item: InBooks }[] => {
    const held = books.get(version.id);
    return held ? [{ name, item: { version, books: held } }] : [];
  };
  const owed = reports.flatMap(({ version, row }) => withBooks(version, row.name));
  const held = funds.flatMap(({ version, fund }) => withBooks(version, fund.name));
  const itemsOf = (some: typeof owed): InBooks[] => some.map(({ item }) => item);
  const wrong = [
    ...(await figures.each('in-books', asked, itemsOf(owed))),
    ...(await figures.each('fund-in-books', asked, itemsOf(held))),
  ];
  const inBooks = [...owed, ...held];
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
  const held = (await newestFunds(database, company.id)).map((version) => ({ version, books: unseen }));
  const proven = [
    ...(await figures.each('in-books', asked, items)),
    ...(await figures.each('fund-in-books', asked, held)),
  ];
  return proven.flatMap((worked) => {
    if ('unworkable' in worked) return [`${worked.unworkable.name}: ${worked.unworkable.message}`];
    const { failing, name } = worked.made;
    return failing === undefined ? [] : [`${name}: a proof fails, not so is "${failing}".`];
  });
}
