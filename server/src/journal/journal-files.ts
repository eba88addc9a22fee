import type { Response } from 'express';
import exceljs from 'exceljs';
import type { Knex } from 'knex';
import { formatAmount } from '@coffer/core';
import type { EntryView } from '@coffer/contract';
import { trailHead } from '../audit/trail.ts';
import { plainText, writeCsv } from '../http/csv.ts';
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

type Row = Record<(typeof columns)[number], string | number | null>;

function rowsOf(entry: EntryView, money: (minor: number) => string): Row[] {
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
    debit: money(line.debit),
    credit: money(line.credit),
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
    const rows = entries.flatMap((entry) => rowsOf(entry, (minor) => formatAmount(minor, digits)));
    response.write(writeCsv(columns, rows, false));
  }
  response.end();
}

const widths: Partial<Record<keyof Row, number>> = {
  memo: 44,
  instrument: 30,
  account: 30,
  debit: 16,
  credit: 16,
};
const headings: Partial<Record<keyof Row, string>> = {
  accountCode: 'Account code',
  costCentre: 'Cost centre',
  payment: 'Payment no.',
  forPeriod: 'For month to',
};

/** Writes the journal as a workbook, streamed; amounts are numbers, text stays text whatever it begins with. */
export async function writeJournalWorkbook(
  response: Response,
  database: Knex,
  span: JournalSpan,
  digits: number,
): Promise<void> {
  const book = new exceljs.stream.xlsx.WorkbookWriter({ stream: response, useStyles: true });
  const sheet = book.addWorksheet('Journal', { views: [{ state: 'frozen', ySplit: 1 }] });
  const decimals = digits > 0 ? `.${'0'.repeat(digits)}` : '';
  sheet.columns = columns.map((key) => ({
    key,
    header: headings[key] ?? key.charAt(0).toUpperCase() + key.slice(1),
    width: widths[key] ?? 12,
    style: key === 'debit' || key === 'credit' ? { numFmt: `#,##0${decimals}` } : {},
  }));
  sheet.getRow(1).font = { bold: true };
  for await (const entries of pages(database, span)) {
    for (const row of entries.flatMap((entry) => rowsOf(entry, (minor) => formatAmount(minor, digits)))) {
      sheet.addRow({ ...mapText(row), debit: Number(row.debit), credit: Number(row.credit) }).commit();
    }
  }
  sheet.commit();
  const about = book.addWorksheet('About');
  about.columns = [{ width: 16 }, { width: 70 }];
  const trail = await trailHead(database);
  about.addRow(['Entries dated', `${span.from} to ${span.to}`]).commit();
  const two = await asksForTwo(database, span.companyId);
  about.addRow(['Months closed by', two ? 'two people' : 'one person']).commit();
  about.addRow(['Audit trail', trail ? `event ${trail.event}, ${trail.hash}` : 'none']).commit();
  about.commit();
  await book.commit();
}

function mapText(row: Row): Record<string, string | number | null> {
  return Object.fromEntries(
    Object.entries(row).map(([key, value]) => [key, typeof value === 'string' ? plainText(value) : value]),
  );
}
