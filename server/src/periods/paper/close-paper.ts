import type { Content, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces';
import { comparedFigures } from '@coffer/core';
import {
  bookedRows,
  closeSteps,
  comparedNames,
  differenceSentence,
  missingFixings,
  stepInWords,
  entryKindNames,
  showAmount,
  showDay,
  showMonth,
  showMovement,
  type EntryLineView,
  type Habits,
} from '@coffer/contract';
import { closedBy, heading, inks, pairs, table } from '../../instruments/files/paper-parts.ts';
import {
  closeFigures,
  momentInWords,
  ofItself,
  saidAndDone,
  stateInWords,
  stepStates,
  toLookAt,
  type CloseRecord,
} from './close-record.ts';

/** What a paper of a close says beside the close itself. */
export interface ClosePaperContext {
  readonly company: string;
  readonly currency: string;
  readonly digits: number;
  /** How the company writes numbers and days. */
  readonly habits: Habits;
  /** Whether months of the company are closed by one person, which every paper says. */
  readonly alone: boolean;
  readonly madeBy: string;
  /** Day and time it was made, in words. */
  readonly madeAt: string;
}

/** Instruments and entries that a paper lists; more are in the workbook. */
export const mostListed = 500;

/** The working paper of a close: its list, who did what when, figures, what differs, entries and digest. */
export function closePaper(record: CloseRecord, context: ClosePaperContext): TDocumentDefinitions {
  const { view } = record;
  const { company, currency, digits, madeBy, madeAt } = context;
  const title = `Close of ${showMonth(view.endsOn)}`;
  return {
    pageSize: 'A4',
    pageOrientation: 'landscape',
    pageMargins: [36, 36, 36, 40],
    info: { title: `${company}: ${title}`, author: madeBy, creator: 'Coffer' },
    defaultStyle: { font: 'Sans', fontSize: 7.4, color: inks.ink },
    styles: { heading: { bold: true, fontSize: 10, margin: [0, 14, 0, 4] } },
    footer: (page: number, pages: number) => ({
      margin: [36, 12, 36, 0],
      color: inks.dim,
      fontSize: 6.6,
      columns: [
        {
          text: `${company} · ${title} · taken out by ${madeBy} · made with Coffer ${madeAt}${closedBy(context)}`,
        },
        { text: `page ${page} of ${pages}`, alignment: 'right', width: 'auto' },
      ],
    }),
    // A heading never stands alone at the foot of a page.
    pageBreakBefore: (node, { getFollowingNodesOnPage }) =>
      node.headlineLevel === 1 && getFollowingNodesOnPage().length === 0,
    content: [
      { text: company, color: inks.dim, fontSize: 8 },
      { text: title, bold: true, fontSize: 16 },
      { text: `${currency}, ${stateInWords(view)}`, color: inks.dim, margin: [0, 0, 0, 6] },
      pairs(factsOf(record)),
      heading('List of the month'),
      listPart(record, digits),
      ...saidPart(record, digits),
      ...assumedPart(record, digits),
      heading('Figures'),
      ...figuresPart(record, digits),
      ...leftOutPart(record, digits),
      ...differencesPart(record, digits),
      heading('Entries'),
      ...entriesPart(record, digits),
    ],
  };
}

function factsOf({ view, trail }: CloseRecord): (readonly [string, string])[] {
  return [
    ['Month', `${showDay(`${view.endsOn.slice(0, 8)}01`)} to ${showDay(view.endsOn)}`],
    ['Accruals', view.accruals === 'reversed' ? 'reversed on the first of the next month' : 'left standing'],
    ...(view.closedAt === null ? [] : [['Closed', momentInWords(view.closedAt)] as const]),
    ['Digest', inHalves(view.digest ?? 'none: closed before there were any')],
    ['Audit trail', trail ? `event ${trail.event}, ${inHalves(trail.hash)}` : 'none'],
  ];
}

/** A hash in two halves, so that it breaks where a line ends. */
const inHalves = (hash: string): string =>
  hash.length === 64 ? `${hash.slice(0, 32)} ${hash.slice(32)}` : hash;

function listPart({ view }: CloseRecord, digits: number): Content {
  const rows = closeSteps(view, digits).map((step) => [
    step.name,
    stepStates[step.state],
    stepInWords(step),
    step.by ? `${step.by.by ?? 'Coffer'}, ${momentInWords(step.by.at)}` : '',
  ]);
  return table(['Check', 'State', 'What it is', 'Agreed by'], rows, [130, 60, '*', 170], []);
}

/** Who did what when, and what was said. */
function saidPart({ view }: CloseRecord, digits: number): Content[] {
  const part = heading('Who and when');
  const all = saidAndDone(view, digits);
  if (all.length === 0)
    return [part, { text: 'Nobody has handed it over or said anything yet.', color: inks.dim }];
  const cells = all.map(({ at, by, what, said }) => [momentInWords(at), by, what, said]);
  return [part, table(['When', 'Who', 'What', 'Said'], cells, [100, 110, 130, '*'], [])];
}

/** Every payment that was not recorded and every rate that was not fixed, and how each was treated. */
function assumedPart({ view }: CloseRecord, digits: number): Content[] {
  const { unrecorded } = view;
  const missing = missingFixings(view);
  const payments = unrecorded
    .slice(0, mostListed)
    .map(({ name, due, amount }): TableCell[] => [name, showDay(due), showAmount(amount, digits)]);
  return [
    ...(unrecorded.length === 0
      ? []
      : [
          heading('Not recorded, assumed paid as agreed'),
          table(['Instrument', 'Due', 'Amount'], payments, ['*', 90, 90], [2]),
          ...more(unrecorded.length, 'payments'),
        ]),
    ...(missing.length === 0
      ? []
      : [
          heading('Not fixed, left at the rate before'),
          table(
            ['Instrument', 'To be fixed'],
            missing.slice(0, mostListed).map(({ name, on }) => [name, showDay(on)]),
            ['*', 90],
            [],
          ),
          ...more(missing.length, 'rates'),
        ]),
  ];
}

const strong = (text: string, right = false): TableCell => ({
  text,
  bold: true,
  alignment: right ? 'right' : 'left',
});

function figuresPart({ view }: CloseRecord, digits: number): Content[] {
  const booked = bookedRows(view);
  const figures = closeFigures.map(({ key }) => key);
  const rows: TableCell[][] = booked
    .slice(0, mostListed)
    .map(({ row, ...of }) => [
      row.name,
      String(row.version),
      ...figures.map((key) => showMovement(of[key], digits)),
    ]);
  const sums = figures.map((key) => booked.reduce((sum, of) => sum + of[key], 0));
  const total = [
    strong('All instruments'),
    '',
    ...sums.map((sum) => strong(showMovement(sum, digits), true)),
  ];
  const right = figures.map((_, at) => at + 1);
  const funds = view.funds.map(({ name, version, figures: at }) => [
    name,
    String(version),
    showAmount(at.balance, digits),
    showAmount(at.accruedInterest, digits),
  ]);
  return [
    table(
      ['Instrument', 'Version', ...closeFigures.map(({ name }) => name)],
      [...rows, total],
      ['*', 40, ...figures.map(() => 82)],
      [1, ...right.map((at) => at + 1)],
    ),
    ...more(view.rows.length, 'instruments'),
    ...(funds.length === 0
      ? []
      : [
          heading('Held to repay debt'),
          table(['Fund', 'Version', 'Holds', 'Accrued'], funds, ['*', 40, 82, 82], [1, 2, 3]),
        ]),
  ];
}

/** That not all of them are listed. */
function more(many: number, what: string): Content[] {
  if (many <= mostListed) return [];
  const text = `The first ${mostListed} of ${many} ${what} are listed; the sums are of all, and the workbook has each.`;
  return [{ text, color: inks.dim, margin: [0, 3, 0, 0] }];
}

function leftOutPart({ view: { leftOut, materiality } }: CloseRecord, digits: number): Content[] {
  if (leftOut.length === 0) return [];
  const sum = leftOut.reduce((total, { amount }) => total + amount, 0);
  const rows: TableCell[][] = leftOut
    .slice(0, mostListed)
    .map(({ name, amount }) => [name, showAmount(amount, digits)]);
  return [
    heading('Too small to accrue'),
    {
      text: `Accruals below ${showAmount(materiality.each, digits)}, together at most ${showAmount(materiality.sum, digits)}; the next payment charges the whole interest.`,
      margin: [0, 0, 0, 3],
    },
    table(
      ['Instrument', 'Left out'],
      [...rows, [strong('Altogether'), strong(showAmount(sum, digits), true)]],
      ['*', 82],
      [1],
    ),
    ...more(leftOut.length, 'accruals'),
  ];
}

function differencesPart({ differences }: CloseRecord, digits: number): Content[] {
  const looked = toLookAt(differences);
  const quiet = differences.lines.length - looked.length;
  const own = ofItself(differences);
  const rows: TableCell[][] = looked.slice(0, mostListed).map((line) => {
    return [
      line.name,
      ...comparedFigures.map((figure) => showMovement(line[figure].change, digits)),
      differenceSentence(line, digits),
    ];
  });
  const asScheduled: TableCell[] = [
    `${quiet} that ran as scheduled`,
    ...comparedFigures.map((figure) => showMovement(own[figure], digits)),
    '',
  ];
  const before =
    differences.before === null ? 'nothing: the books begin here' : showMonth(differences.before);
  return [
    heading(`What differs from ${before}`),
    table(
      ['Instrument', ...comparedFigures.map((figure) => comparedNames[figure]), 'Why'],
      quiet === 0 ? rows : [...rows, asScheduled],
      ['*', ...comparedFigures.map(() => 82), 200],
      comparedFigures.map((_, at) => at + 1),
    ),
    ...more(looked.length, 'instruments with a cause'),
  ];
}

function entriesPart({ view, entries, many }: CloseRecord, digits: number): Content[] {
  const head = ['', 'Account', 'Debit', 'Credit'];
  const widths = [150, '*', 90, 90];
  const line = ({ code, account, debit, credit }: EntryLineView, first: TableCell): TableCell[] => [
    first,
    `${code} ${account}`,
    debit === 0 ? '' : showAmount(debit, digits),
    credit === 0 ? '' : showAmount(credit, digits),
  ];
  const sums = view.sums.flatMap(({ kind, count, lines }) =>
    lines.map((each, at) => line(each, at === 0 ? `${entryKindNames[kind]}, ${count}` : '')),
  );
  const total = [
    strong('Altogether'),
    '',
    strong(showAmount(view.debits, digits), true),
    strong(showAmount(view.credits, digits), true),
  ];
  const posted = view.state === 'closed' ? '' : `, of which ${view.draftCount} are still to be posted`;
  return [
    table(head, [...sums, total], widths, [2, 3]),
    {
      text: `${many} entries${posted}. ${view.reversalCount} accruals are reversed as the next month opens.`,
      margin: [0, 4, 0, 0],
    },
    ...(entries.length === 0
      ? more(many, 'entries')
      : [
          heading('Entry by entry'),
          table(
            ['No.', 'Date', 'Instrument', 'Account', 'Debit', 'Credit'],
            entries.flatMap((entry) =>
              entry.lines.map((each, at): TableCell[] => [
                at === 0 ? String(entry.number ?? 'draft') : '',
                at === 0 ? showDay(entry.date) : '',
                at === 0 ? `${entry.instrument}: ${entry.memo}` : '',
                ...line(each, '').slice(1),
              ]),
            ),
            [34, 60, '*', 190, 80, 80],
            [4, 5],
          ),
        ]),
  ];
}
