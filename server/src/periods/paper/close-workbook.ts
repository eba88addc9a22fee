import type { Writable } from 'node:stream';
import { comparedFigures } from '@coffer/core';
import {
  bookedRows,
  closeSteps,
  comparedNames,
  differenceSentence,
  missingFixings,
  stepInWords,
  type EntryView,
} from '@coffer/contract';
import { StreamedWorkbook, type SheetColumn } from '../../http/workbook.ts';
import { entryCells, entryColumns } from '../../journal/journal-files.ts';
import type { ClosePaperContext } from './close-paper.ts';
import {
  closeFigures,
  momentInWords,
  saidAndDone,
  stateInWords,
  stepStates,
  type CloseRecord,
} from './close-record.ts';

const ofInstrument: readonly SheetColumn[] = [
  ['Instrument', 34],
  ['Version', 9],
];

/**
 * The working paper of a close as a workbook, streamed: the list of the month, who and when, figures, what is left out, what
 * differs, and every entry.
 */
export async function writeCloseWorkbook(
  stream: Writable,
  record: CloseRecord & { readonly listed: () => AsyncGenerator<EntryView[]> },
  context: ClosePaperContext,
): Promise<void> {
  const { view, differences } = record;
  const { digits } = context;
  const book = new StreamedWorkbook(stream, digits);
  book.about('Month', factsOf(record, context));
  await book.sheet(
    'List',
    [
      ['Check', 28],
      ['State', 12],
      ['What it is', 60],
      ['Agreed by', 24],
      ['Agreed at', 22],
    ],
    closeSteps(view, digits).map((step) => [
      step.name,
      stepStates[step.state],
      stepInWords(step),
      step.by?.by ?? '',
      step.by ? momentInWords(step.by.at) : '',
    ]),
  );
  await book.sheet(
    'Who and when',
    [
      ['At', 22],
      ['By', 24],
      ['What', 34],
      ['Said', 70],
    ],
    saidAndDone(view, digits).map(({ at, by, what, said }) => [momentInWords(at), by, what, said]),
  );
  await book.sheet(
    'Not recorded, assumed paid',
    [
      ['Instrument', 34],
      ['Due', 14],
      ['Amount', 16, 'amount'],
    ],
    view.unrecorded.map(({ name, due, amount }) => [name, due, amount]),
  );
  await book.sheet(
    'Rates not fixed',
    [
      ['Instrument', 34],
      ['To be fixed', 14],
    ],
    missingFixings(view).map(({ name, on }) => [name, on]),
  );
  await book.sheet(
    'Figures',
    [...ofInstrument, ...closeFigures.map(({ name }): SheetColumn => [name, 16, 'amount'])],
    bookedRows(view).map(({ row, ...of }) => [
      row.name,
      row.version,
      ...closeFigures.map(({ key }) => of[key]),
    ]),
  );
  await book.sheet(
    'Funds',
    [...ofInstrument, ['Holds', 16, 'amount'], ['Accrued', 16, 'amount']],
    view.funds.map(({ name, version, figures }) => [name, version, figures.balance, figures.accruedInterest]),
  );
  await book.sheet(
    'Too small to accrue',
    [
      ['Instrument', 34],
      ['Left out', 16, 'amount'],
    ],
    view.leftOut.map(({ name, amount }) => [name, amount]),
  );
  await book.sheet(
    'Differences',
    [
      ['Instrument', 34],
      ...comparedFigures.flatMap((figure): SheetColumn[] => [
        [comparedNames[figure], 16, 'amount'],
        [`${comparedNames[figure]}, change`, 18, 'amount'],
      ]),
      ['As scheduled', 13],
      ['Why', 60],
    ],
    differences.lines.map((line) => {
      const figures = comparedFigures.flatMap((figure) => [line[figure].now, line[figure].change]);
      return [line.name, ...figures, line.asScheduled ? 'yes' : 'no', differenceSentence(line, digits)];
    }),
  );
  await book.sheet('Entries', entryColumns, entryCells(record.listed()));
  await book.end();
}

function factsOf(
  { view, trail }: CloseRecord,
  { company, currency, alone, madeBy, madeAt }: ClosePaperContext,
): (readonly [string, string])[] {
  return [
    ['Company', company],
    ['Currency', currency],
    ['Month to', view.endsOn],
    ['State', stateInWords(view)],
    ['Closed', view.closedAt === null ? '' : momentInWords(view.closedAt)],
    ['Months closed by', alone ? 'one person' : 'two people'],
    ['Digest', view.digest ?? ''],
    ['Audit trail', trail ? `event ${trail.event}, ${trail.hash}` : 'none'],
    ['Taken out by', `${madeBy}, ${madeAt}`],
  ];
}
