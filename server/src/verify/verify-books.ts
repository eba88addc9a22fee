import type { Knex } from 'knex';
import { formatAmount, formatDay, parseDay, unseen, type AccountRole, type CalendarDay } from '@coffer/core';
import type { FiguresView } from '@coffer/contract';
import { companyOf, type Company } from '../company/company-store.ts';
import { documentAsText, newestVersions } from '../instruments/instrument-store.ts';
import { figuresOfRow, type ReportedRow } from '../instruments/instrument-view.ts';
import { booksOfInstruments } from '../periods/books-of-instruments.ts';
import { monthStart, openPeriod } from '../periods/period-store.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';

/** Something that does not agree, in a sentence. */
export interface Disagreement {
  readonly company: string;
  readonly message: string;
}

/**
 * Holds everything that is kept against everything it should agree with: entries balance and are numbered without gaps;
 * the ledger stands at what each closed month reported, account by account; what was reported is what the version it
 * came from gives, worked out anew; the books hold the cash and everything else of the documents; and every proof holds.
 */
export async function verifyBooks(database: Knex, figures: FigureThreads): Promise<Disagreement[]> {
  const ids = await database('company').orderBy('id').pluck<number[]>('id');
  const found: Disagreement[] = [];
  for (const id of ids) {
    const company = await companyOf(database, id);
    const messages = [
      ...(await wrongEntries(database, company)),
      ...(await wrongReports(database, figures, company)),
      ...(await wrongInstruments(database, figures, company)),
    ];
    found.push(...messages.map((message) => ({ company: company.name, message })));
  }
  return found;
}

async function wrongEntries(database: Knex, { id }: Company): Promise<string[]> {
  const unbalanced = await database('entry')
    .leftJoin('entry_line', (on) => {
      on.on('entry_line.company_id', 'entry.company_id').andOn('entry_line.number', 'entry.number');
    })
    .where({ 'entry.company_id': id })
    .groupBy('entry.number')
    .havingRaw('coalesce(sum(debit), 0) <> coalesce(sum(credit), 0) or count(role) < 2')
    .orderBy('entry.number')
    .pluck<number[]>('entry.number');
  const [numbers] = await database('company')
    .leftJoin('entry', 'entry.company_id', 'company.id')
    .where({ 'company.id': id })
    .groupBy('company.id')
    .select<{ last: number; highest: number; many: number }[]>(
      'last_entry_number as last',
      database.raw('coalesce(max(number), 0)::int as highest'),
      database.raw('count(number)::int as many'),
    );
  const { last = 0, highest = 0, many = 0 } = numbers ?? {};
  const gap = last === highest && highest === many;
  return [
    ...unbalanced.map((number) => `Entry ${number} does not balance.`),
    ...(gap ? [] : [`${many} entries are there, numbered to ${highest}; the last given number is ${last}.`]),
  ];
}

/** What an account of an instrument should hold of what was reported, debits positive. */
const reportedAs: readonly (readonly [readonly AccountRole[], (at: FiguresView) => number])[] = [
  [['loan-payable', 'bonds-payable', 'current-portion'], (at) => 0 - at.outstanding],
  [['current-portion'], (at) => 0 - at.current],
  [['interest-payable'], (at) => 0 - at.accruedInterest - at.accruedFee - at.unpaidInterest],
  [['bond-discount'], (at) => at.unamortizedDiscount],
  [['bond-premium'], (at) => 0 - at.unamortizedPremium],
  [['issue-costs'], (at) => at.unamortizedIssueCosts],
  [['deferred-costs'], (at) => at.deferredCosts],
  [['overpayment'], (at) => at.overpaid],
];

type StoredReport = ReportedRow & { readonly document: string; readonly name: string };

async function wrongReports(database: Knex, figures: FigureThreads, company: Company): Promise<string[]> {
  const closed = await database('period')
    .where({ company_id: company.id, state: 'closed' })
    .orderBy('ends_on')
    .pluck<string[]>('ends_on');
  const found: string[] = [];
  for (const endsOn of closed) {
    const reports = await database('reported_position')
      .join('instrument_version', (join) => {
        join
          .on('instrument_version.instrument_id', 'reported_position.instrument_id')
          .andOn('instrument_version.version', 'reported_position.instrument_version');
      })
      .where({ company_id: company.id, period_end: endsOn })
      .select<StoredReport[]>(
        'reported_position.*',
        documentAsText(database),
        database.raw(`instrument_version.document ->> 'name' as name`),
      );
    found.push(...(await offTheLedger(database, company, endsOn, reports)));
    found.push(...(await workedOutOtherwise(figures, company, endsOn, reports)));
  }
  return found;
}

/** The ledger at the end of a closed month against what it reported. */
async function offTheLedger(
  database: Knex,
  company: Company,
  endsOn: string,
  reports: readonly StoredReport[],
): Promise<string[]> {
  const sums = await database('entry')
    .join('entry_line', (on) => {
      on.on('entry_line.company_id', 'entry.company_id').andOn('entry_line.number', 'entry.number');
    })
    .where({ 'entry.company_id': company.id })
    .where('period_end', '<=', endsOn)
    .groupBy('instrument_id', 'role')
    .select<{ instrument_id: string; role: AccountRole; balance: string }[]>(
      'instrument_id',
      'role',
      database.raw('sum(debit::numeric - credit::numeric) as balance'),
    );
  const ledger = new Map<string, Map<AccountRole, number>>();
  for (const { instrument_id: id, role, balance } of sums) {
    const ofInstrument = ledger.get(id) ?? new Map<AccountRole, number>();
    ledger.set(id, ofInstrument.set(role, Number(balance)));
  }
  const reported = new Map(reports.map((row) => [row.instrument_id, row]));
  const money = (minor: number): string => formatAmount(minor, company.digits);
  const found: string[] = [];
  for (const id of new Set([...ledger.keys(), ...reported.keys()])) {
    const row = reported.get(id);
    for (const [roles, should] of reportedAs) {
      const holds = roles.reduce((sum, role) => sum + (ledger.get(id)?.get(role) ?? 0), 0);
      const said = row ? should(figuresOfRow(row)) : 0;
      if (holds === said) continue;
      found.push(
        `${row?.name ?? id}, ${endsOn}: the ledger holds ${money(holds)} in ${roles.join(' and ')}, ` +
          `where ${money(said)} was reported.`,
      );
    }
  }
  return found;
}

/** What a closed month reported against the version that it came from, worked out anew. */
async function workedOutOtherwise(
  figures: FigureThreads,
  company: Company,
  endsOn: string,
  reports: readonly StoredReport[],
): Promise<string[]> {
  const day = parseDay(endsOn) as CalendarDay;
  const items = reports.map((row) => ({
    version: { id: row.instrument_id, version: row.instrument_version, document: row.document },
  }));
  const anew = await figures.each('register', { day }, items);
  return reports.flatMap((row, at) => {
    const worked = anew[at];
    if (!worked || 'unworkable' in worked)
      return [`${row.name}, ${endsOn}: it cannot be worked out any more.`];
    const now = worked.made.standing?.row.figures;
    const then = figuresOfRow(row);
    const keys = (Object.keys(then) as (keyof FiguresView)[]).filter(
      (key) => then[key] !== (now?.[key] ?? 0),
    );
    return keys.map(
      (key) =>
        `${row.name}, ${endsOn}: ${key} was reported as ${formatAmount(then[key], company.digits)}, and its version ` +
        `${row.instrument_version} gives ${formatAmount(now?.[key] ?? 0, company.digits)}.`,
    );
  });
}

/** Documents against the books of the closed months, and their proofs. */
async function wrongInstruments(database: Knex, figures: FigureThreads, company: Company): Promise<string[]> {
  const open = await openPeriod(database, company.id);
  if (!open) return [];
  // What a month reported nothing of had not begun or was settled: then the ledger holds nothing, which is looked at above.
  const last = formatDay(monthStart(open.ends_on) - 1);
  const reports = await database('reported_position')
    .join('instrument', 'instrument.id', 'reported_position.instrument_id')
    .join('instrument_version', (join) => {
      join
        .on('instrument_version.instrument_id', 'reported_position.instrument_id')
        .andOn('instrument_version.version', 'reported_position.instrument_version');
    })
    .where({ 'reported_position.company_id': company.id, period_end: last })
    .whereNull('withdrawn_at')
    .select<{ id: string; version: number; document: string; name: string }[]>(
      'instrument.id',
      'instrument_version.version',
      'instrument.name',
      documentAsText(database),
    );
  const books = await booksOfInstruments(database, company.id, open.ends_on);
  const month = parseDay(open.ends_on) as CalendarDay;
  const asked = { month, booksFrom: parseDay(company.booksFrom) as CalendarDay };
  const money = (minor: number): string => formatAmount(minor, company.digits);
  const inBooks = reports.flatMap(({ name, ...version }) => {
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
