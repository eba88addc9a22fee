import { PassThrough } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { eventFacts, issueFacts, scheduleTable, termFacts, type TableColumn } from '@coffer/contract';
import { proofsOf } from '@coffer/core';
import { StreamedWorkbook, type Cell, type CellType, type SheetColumn } from '../../http/workbook.ts';
import type { KnownInstrument } from '../known-instruments.ts';

/** What a workbook is made of. */
type Shown = Pick<KnownInstrument, 'document' | 'schedule' | 'version'>;

/** A schedule as a workbook: the rows as numbers and days with their totals, the terms and events, the proofs. */
export async function scheduleWorkbook(instrument: Shown): Promise<Uint8Array> {
  const { digits } = instrument.schedule.terms;
  const stream = new PassThrough();
  const made = buffer(stream);
  const book = new StreamedWorkbook(stream, digits);
  await addSchedule(book, instrument);
  book.about('Terms', factsOf(instrument));
  await book.sheet(
    'Proofs',
    [
      ['Proof', 84],
      ['Holds', 10],
      ['Difference', 16, 'decimal'],
    ],
    proofsOf(instrument.schedule).map(({ name, holds, difference }) => [
      name,
      holds ? 'yes' : 'no',
      difference / 10 ** digits,
    ]),
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

async function addSchedule(book: StreamedWorkbook, { schedule }: Shown): Promise<void> {
  const { columns, rows, totals } = scheduleTable(schedule);
  await book.sheet(
    'Schedule',
    columns.map(({ title, type }): SheetColumn => [title, widths[type], cellTypes[type]]),
    rows.map((row) => columns.map(({ key }): Cell => row[key] ?? null)),
    { kept: 2, totals: columns.map(({ key }) => (key === 'due' ? 'Total' : (totals[key] ?? null))) },
  );
}

function factsOf({ document, schedule, version }: Shown): (readonly [string, string])[] {
  return [
    ['Instrument', document.name],
    ['Lender', document.lender ?? ''],
    ['Agreement', document.agreement ?? ''],
    ['Version', String(version)],
    ...termFacts(document),
    ...issueFacts(schedule),
    ...eventFacts(document),
  ];
}
