import type { Response } from 'express';
import type { Knex } from 'knex';
import { formatAmount } from '@coffer/core';
import type { EntryView } from '@coffer/contract';
import { trailHead } from '../audit/trail.ts';
import { writeCsv } from '../http/csv.ts';
import { StreamedWorkbook, type Cell, type SheetColumn } from '../http/workbook.ts';
import { asksForTwo } from '../periods/second-person.ts';
import { journalPage, type JournalSpan } from './journal-store.ts';

const columns = [
  'entry',
  'date',
  'kind',
  'memo',
  'instrument',
  'version',
  'payment',
  'forPeriod',
  'accountCode',
  'account',
  'costCentre',
  'debit',
  'credit',
] as const;

type Row = Record<(typeof columns)[number], Cell>;

/** The lines of an entry, amounts in minor units. */
function rowsOf(entry: EntryView): Row[] {
  return entry.lines.map((line) => ({
    entry: entry.number,
    date: entry.date,
    kind: entry.kind,
    memo: entry.memo,
    instrument: entry.instrument,
    version: entry.version,
    payment: entry.row,
    forPeriod: entry.forPeriod,
    accountCode: line.code,
    account: line.account,
    costCentre: entry.costCentre,
    debit: line.debit,
    credit: line.credit,
  }));
}

/** The entries of a span, page after page, so that a large journal is never held whole. */
async function* pages(database: Knex, span: JournalSpan): AsyncGenerator<EntryView[]> {
  let after: number | null = 0;
  while (after !== null) {
    const page: { entries: EntryView[]; next: number | null } = await journalPage(database, span, after);
    yield page.entries;
    after = page.next;
  }
}

/** Writes the journal as CSV, one line a row, amounts as plain decimals. */
export async function writeJournalCsv(
  response: Response,
  database: Knex,
  span: JournalSpan,
  digits: number,
): Promise<void> {
  response.write(writeCsv(columns, []));
  for await (const entries of pages(database, span)) {
    const rows = entries.flatMap(rowsOf).map((row) => ({
      ...row,
      debit: formatAmount(Number(row.debit), digits),
      credit: formatAmount(Number(row.credit), digits),
    }));
    response.write(writeCsv(columns, rows, false));
  }
  response.end();
}

/** The columns of entries in a workbook, a line a row, as {@link entryCells} gives them. */
export const entryColumns: readonly SheetColumn[] = [
  ['Entry', 12],
  ['Date', 12],
  ['Kind', 16],
  ['Memo', 44],
  ['Instrument', 30],
  ['Version', 12],
  ['Payment no.', 12],
  ['For month to', 13],
  ['Account code', 13],
  ['Account', 30],
  ['Cost centre', 14],
  ['Debit', 16, 'amount'],
  ['Credit', 16, 'amount'],
];

/** The lines of entries, page after page, as a workbook has them; what is not posted yet has no number. */
export async function* entryCells(pages: AsyncIterable<readonly EntryView[]>): AsyncGenerator<Cell[]> {
  for await (const entries of pages) {
    for (const row of entries.flatMap(rowsOf)) yield columns.map((column) => row[column]);
  }
}

/** Writes the journal as a workbook, streamed. */
export async function writeJournalWorkbook(
  response: Response,
  database: Knex,
  span: JournalSpan,
  digits: number,
): Promise<void> {
  const book = new StreamedWorkbook(response, digits);
  await book.sheet('Journal', entryColumns, entryCells(pages(database, span)));
  const trail = await trailHead(database);
  const two = await asksForTwo(database, span.companyId);
  book.about('About', [
    ['Entries dated', `${span.from} to ${span.to}`],
    ['Months closed by', two ? 'two people' : 'one person'],
    ['Audit trail', trail ? `event ${trail.event}, ${trail.hash}` : 'none'],
  ]);
  await book.end();
}
