import type { Writable } from 'node:stream';
import exceljs from 'exceljs';
import { comparedFigures, formatAmount } from '@coffer/core';
import { closeSteps, comparedNames, differenceInWords, type EntryView } from '@coffer/contract';
import { plainText } from '../../http/csv.ts';
import type { ClosePaperContext } from './close-paper.ts';
import { closeFigures, momentInWords, stateInWords, type CloseRecord } from './close-record.ts';

type Cell = string | number | null;

/** A sheet's columns: what each is called, how wide it is, and whether it has amounts in minor units. */
type Columns = readonly (readonly [title: string, width: number, amount?: 'amount'])[];

/**
 * The working paper of a close as a workbook, streamed: the list of the month, who and when, figures, what is left out, what
 * differs, and every entry. Amounts are numbers, and text stays text whatever it begins with.
 */
export async function writeCloseWorkbook(
  stream: Writable,
  record: CloseRecord & { readonly listed: () => AsyncGenerator<EntryView[]> },
  { company, currency, digits, alone, madeBy, madeAt }: ClosePaperContext,
): Promise<void> {
  const { view, differences, trail } = record;
  const book = new exceljs.stream.xlsx.WorkbookWriter({ stream, useStyles: true });
  const sheets = new Sheets(book, digits);
  const names = new Map(view.rows.map(({ id, name }) => [id, name]));
  await sheets.write(
    'Month',
    [
      ['', 26],
      ['', 90],
    ],
    [
      ['Company', company],
      ['Currency', currency],
      ['Month to', view.endsOn],
      ['State', stateInWords(view)],
      ['Closed', view.closedAt === null ? '' : momentInWords(view.closedAt)],
      ['Months closed by', alone ? 'one person' : 'two people'],
      ['Digest', view.digest ?? ''],
      ['Audit trail', trail ? `event ${trail.event}, ${trail.hash}` : 'none'],
      ['Taken out by', `${madeBy}, ${madeAt}`],
    ],
  );
  await sheets.write(
    'List',
    [
      ['Check', 28],
      ['State', 12],
      ['What it is', 60],
      ['Agreed by', 24],
      ['Agreed at', 22],
    ],
    closeSteps(view, digits).map(({ name, state, text, by }) => [
      name,
      state === 'done' ? 'holds' : state === 'agreed' ? 'agreed to' : 'open',
      text,
      by?.by ?? '',
      by ? momentInWords(by.at) : '',
    ]),
  );
  await sheets.write(
    'Who and when',
    [
      ['At', 22],
      ['By', 24],
      ['What', 24],
      ['Said', 70],
      ['Agreed to', 40],
    ],
    [
      ...view.review.steps.map(({ at, by, step, comment, confirmed }): Cell[] => [
        momentInWords(at),
        by ?? '',
        step,
        comment ?? '',
        confirmed.join(', '),
      ]),
      ...view.review.comments.map(({ at, by, instrumentId, text }): Cell[] => [
        momentInWords(at),
        by ?? '',
        instrumentId === null ? 'comment' : (names.get(instrumentId) ?? 'comment'),
        text,
        '',
      ]),
    ].sort((one, other) => String(one[0]).localeCompare(String(other[0]))),
  );
  await sheets.write(
    'Figures',
    [['Instrument', 34], ['Version', 9], ...closeFigures.map(({ name }) => [name, 16, 'amount'] as const)],
    view.rows.map((row) => [row.name, row.version, ...closeFigures.map(({ of }) => of(row))]),
  );
  await sheets.write(
    'Funds',
    [
      ['Fund', 34],
      ['Version', 9],
      ['Holds', 16, 'amount'],
      ['Accrued', 16, 'amount'],
    ],
    view.funds.map(({ name, version, figures }) => [name, version, figures.balance, figures.accruedInterest]),
  );
  await sheets.write(
    'Too small to accrue',
    [
      ['Instrument', 34],
      ['Left out', 16, 'amount'],
    ],
    view.leftOut.map(({ name, amount }) => [name, amount]),
  );
  await sheets.write(
    'Differences',
    [
      ['Instrument', 34],
      ...comparedFigures.flatMap((figure) => [
        [comparedNames[figure], 16, 'amount'] as const,
        [`${comparedNames[figure]}, change`, 18, 'amount'] as const,
      ]),
      ['As scheduled', 13],
      ['Why', 60],
    ],
    differences.lines.map((line) => {
      const { lead, rest } = differenceInWords(line, digits);
      const figures = comparedFigures.flatMap((figure) => [line[figure].now, line[figure].change]);
      return [line.name, ...figures, line.asScheduled ? 'yes' : 'no', `${lead}: ${rest}`];
    }),
  );
  await sheets.write(
    'Entries',
    [
      ['Entry', 9],
      ['Date', 12],
      ['Kind', 16],
      ['Instrument', 34],
      ['Version', 9],
      ['Memo', 44],
      ['For month to', 13],
      ['Account code', 13],
      ['Account', 30],
      ['Cost centre', 14],
      ['Debit', 16, 'amount'],
      ['Credit', 16, 'amount'],
    ],
    lines(record.listed()),
  );
  await book.commit();
}

async function* lines(pages: AsyncGenerator<EntryView[]>): AsyncGenerator<Cell[]> {
  for await (const entries of pages) {
    for (const {
      number,
      date,
      kind,
      instrument,
      version,
      memo,
      forPeriod,
      costCentre,
      lines: of,
    } of entries) {
      for (const { code, account, debit, credit } of of) {
        yield [
          number ?? 'draft',
          date,
          kind,
          instrument,
          version,
          memo,
          forPeriod,
          code,
          account,
          costCentre,
          debit,
          credit,
        ];
      }
    }
  }
}

/** Sheets that are written row by row, so that a large month is never held whole. */
class Sheets {
  private readonly numFmt: string;

  constructor(
    private readonly book: exceljs.stream.xlsx.WorkbookWriter,
    private readonly digits: number,
  ) {
    this.numFmt = `#,##0${digits > 0 ? `.${'0'.repeat(digits)}` : ''}`;
  }

  async write(name: string, columns: Columns, rows: Iterable<Cell[]> | AsyncIterable<Cell[]>): Promise<void> {
    const titled = columns.some(([title]) => title !== '');
    const sheet = this.book.addWorksheet(name, titled ? { views: [{ state: 'frozen', ySplit: 1 }] } : {});
    sheet.columns = columns.map(([header, width, amount], at) => ({
      key: String(at),
      width,
      ...(titled && { header }),
      ...(amount && { style: { numFmt: this.numFmt } }),
    }));
    if (titled) sheet.getRow(1).font = { bold: true };
    for await (const row of rows) {
      sheet.addRow(row.map((cell, at) => this.cell(cell, columns[at]?.[2]))).commit();
    }
    sheet.commit();
  }

  private cell(cell: Cell, amount: 'amount' | undefined): Cell {
    if (typeof cell === 'string') return plainText(cell);
    return amount && cell !== null ? Number(formatAmount(cell, this.digits)) : cell;
  }
}
