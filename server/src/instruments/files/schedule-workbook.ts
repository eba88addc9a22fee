import { PassThrough } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import type { Count } from '@coffer/core';
import type { TableColumn } from '@coffer/contract';
import { StreamedWorkbook, type Cell, type CellType, type SheetColumn } from '../../http/workbook.ts';
import type { InstrumentRecord } from './instrument-record.ts';

/** A schedule as a workbook: the rows as numbers and days with their totals, the terms and events, the proofs. */
export async function scheduleWorkbook(record: InstrumentRecord, version: Count): Promise<Uint8Array> {
  const { digits, terms, events, proofs } = record;
  const stream = new PassThrough();
  const made = buffer(stream);
  const book = new StreamedWorkbook(stream, digits);
  await addSchedule(book, record);
  book.about('Terms', [
    ['Instrument', record.name],
    ['Lender', record.lender],
    ['Agreement', record.agreement],
    ['Version', String(version)],
    ...terms,
    ...events,
  ]);
  await book.sheet(
    'Proofs',
    [
      ['Proof', 84],
      ['Holds', 10],
      ['Difference', 16, 'decimal'],
    ],
    proofs.map(({ name, holds, difference }) => [name, holds ? 'yes' : 'no', difference / 10 ** digits]),
  );
  await book.end();
  return made;
}

const cellTypes: Readonly<Record<TableColumn['type'], CellType | undefined>> = {
  amount: 'decimal',
  day: 'day',
  count: 'count',
  text: undefined,
};
const widths: Readonly<Record<TableColumn['type'], number>> = { amount: 16, day: 13, count: 6, text: 13 };

async function addSchedule(book: StreamedWorkbook, { table }: InstrumentRecord): Promise<void> {
  const { columns, rows, totals } = table;
  await book.sheet(
    'Schedule',
    columns.map(({ title, type }): SheetColumn => [title, widths[type], cellTypes[type]]),
    rows.map((row) => columns.map(({ key }): Cell => row[key] ?? null)),
    { kept: 2, totals: columns.map(({ key }) => (key === 'due' ? 'Total' : (totals[key] ?? null))) },
  );
}
