import exceljs, { type CellValue } from 'exceljs';
import {
  eventFacts,
  issueFacts,
  scheduleTable,
  termFacts,
  type TableColumn,
  type PublishedRow,
} from '@coffer/contract';
import { proofsOf } from '@coffer/core';
import { plainText } from '../../http/csv.ts';
import type { KnownInstrument } from '../known-instruments.ts';

/** What a workbook is made of. */
type Shown = Pick<KnownInstrument, 'document' | 'schedule' | 'version'>;

/** A schedule as a workbook: the rows as numbers and days with their totals, the terms and events, the proofs. */
export async function scheduleWorkbook(instrument: Shown): Promise<Buffer> {
  const book = new exceljs.Workbook();
  addSchedule(book, instrument);
  addTerms(book, instrument);
  addProofs(book, instrument);
  return Buffer.from(await book.xlsx.writeBuffer());
}

const amountFormat = (digits: number): string => `#,##0${digits > 0 ? `.${'0'.repeat(digits)}` : ''}`;

function addSchedule(book: exceljs.Workbook, { schedule }: Pick<Shown, 'schedule'>): void {
  const { columns, rows, totals } = scheduleTable(schedule);
  const format = { amount: amountFormat(schedule.terms.digits), day: 'yyyy-mm-dd', count: '0', text: '@' };
  const sheet = book.addWorksheet('Schedule', { views: [{ state: 'frozen', ySplit: 1, xSplit: 2 }] });
  sheet.columns = columns.map(({ key, title, type }) => ({
    key,
    header: title,
    width: type === 'amount' ? 16 : type === 'count' ? 6 : 13,
    style: { numFmt: format[type] },
  }));
  sheet.getRow(1).font = { bold: true };
  for (const row of rows) sheet.addRow(cellsOf(columns, row));
  const last = rows.length + 1;
  const total = sheet.addRow(
    Object.fromEntries(
      columns.flatMap(({ key }, at) => {
        if (totals[key] === undefined) return [];
        const letter = sheet.getColumn(at + 1).letter;
        // The sum can be followed in the file, and stands there for readers that do not work it out.
        return [[key, { formula: `SUM(${letter}2:${letter}${last})`, result: Number(totals[key]) }]];
      }),
    ),
  );
  total.getCell('due').value = 'Total';
  total.font = { bold: true };
  total.eachCell((cell) => {
    cell.border = { top: { style: 'thin' }, bottom: { style: 'double' } };
  });
}

function cellsOf(columns: readonly TableColumn[], row: PublishedRow): Record<string, CellValue> {
  return Object.fromEntries(
    columns.map(({ key, type }): [string, CellValue] => {
      const value = row[key];
      if (value === undefined || value === null || value === '') return [key, null];
      if (type === 'amount' || type === 'count') return [key, Number(value)];
      return [key, type === 'day' ? new Date(`${value}T00:00:00Z`) : plainText(String(value))];
    }),
  );
}

function addTerms(book: exceljs.Workbook, { document, schedule, version }: Shown): void {
  const sheet = book.addWorksheet('Terms');
  sheet.columns = [{ width: 26 }, { width: 70 }];
  const facts: (readonly [string, string])[] = [
    ['Instrument', document.name],
    ['Lender', document.lender ?? ''],
    ['Agreement', document.agreement ?? ''],
    ['Version', String(version)],
    ...termFacts(document),
    ...issueFacts(schedule),
    ...eventFacts(document),
  ];
  for (const [name, value] of facts) sheet.addRow([plainText(name), plainText(value)]);
  sheet.getColumn(1).font = { bold: true };
}

function addProofs(book: exceljs.Workbook, { schedule }: Pick<Shown, 'schedule'>): void {
  const sheet = book.addWorksheet('Proofs');
  const { digits } = schedule.terms;
  sheet.columns = [
    { header: 'Proof', width: 84 },
    { header: 'Holds', width: 10 },
    { header: 'Difference', width: 16, style: { numFmt: amountFormat(digits) } },
  ];
  sheet.getRow(1).font = { bold: true };
  for (const { name, holds, difference } of proofsOf(schedule))
    sheet.addRow([name, holds ? 'yes' : 'no', difference / 10 ** digits]);
}
