import type { Content, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces';
import type { Count, PositionFigure, Proof } from '@coffer/core';
import { showAmount, showDay, showText, type Habits } from '@coffer/contract';
import type { Signatures } from '../../periods/month-steps.ts';
import type { InstrumentRecord, PaperRecord, PositionRecord } from './instrument-record.ts';
import { closedBy, heading, inks, pairs, ruled, table } from './paper-parts.ts';
import { mostRowsListed, paperSchedule } from './paper-schedule.ts';

/** What a working paper says beside the instrument itself. */
export interface PaperContext {
  readonly company: string;
  /** Month that the fiscal year ends in, 1 to 12. */
  readonly fiscalYearEndMonth: number;
  /** How the company writes numbers and days. */
  readonly habits: Habits;
  readonly version: number;
  /** The day that positions are as of, `YYYY-MM-DD`. */
  readonly on: string;
  /** Whether months of the company are closed by one person, which every paper says. */
  readonly alone: boolean;
  /** Who prepared and approved the month that ends on the day, where that is closed. */
  readonly signed: Signatures | undefined;
  readonly madeBy: string;
  /** Day and time it was made, in words. */
  readonly madeAt: string;
}

/** A working paper of an instrument: terms, position with how it is made, proofs, events and the whole schedule. */
export function workingPaper(
  { instrument, position }: PaperRecord,
  context: PaperContext,
): TDocumentDefinitions {
  const { digits, terms, proofs, events, notices } = instrument;
  const listed = paperSchedule(instrument.table, position.at, context.fiscalYearEndMonth, digits);
  const named = `${instrument.name}, version ${context.version}`;
  return {
    pageSize: 'A4',
    pageOrientation: listed.columns > 9 ? 'landscape' : 'portrait',
    pageMargins: [42, 40, 42, 44],
    info: {
      title: `${named}: working paper on ${context.on}`,
      author: context.madeBy,
      creator: 'Coffer',
    },
    defaultStyle: { font: 'Sans', fontSize: 8, color: inks.ink },
    styles: {
      heading: { bold: true, fontSize: 10.5, margin: [0, 14, 0, 4] },
      title: { bold: true, fontSize: 17 },
    },
    footer: (page: number, pages: number) => ({
      margin: [42, 14, 42, 0],
      color: inks.dim,
      fontSize: 7,
      columns: [
        {
          text: `${context.company} · ${named} · taken out by ${context.madeBy} · made with Coffer ${context.madeAt}${closedBy(context)}`,
        },
        { text: `page ${page} of ${pages}`, alignment: 'right', width: 'auto' },
      ],
    }),
    // A heading never stands alone at the foot of a page.
    pageBreakBefore: (node, { getFollowingNodesOnPage }) =>
      node.headlineLevel === 1 && getFollowingNodesOnPage().length === 0,
    content: [
      head(instrument, context),
      heading('Terms'),
      pairs(terms),
      heading(`Position on ${showDay(context.on)}`),
      positionPart(position, digits),
      heading('Proofs'),
      proofsPart(proofs, digits),
      ...eventsPart(events),
      ...noticesPart(notices),
      heading('Schedule'),
      listed.content,
      { text: listed.legend, color: inks.dim, margin: [0, 6, 0, 0] },
    ],
  };
}

function head(instrument: InstrumentRecord, context: PaperContext): Content {
  const line = (what: string, who: string, when: string): TableCell[] => [
    { text: what, color: inks.dim },
    { text: who },
    { text: when },
  ];
  // Of a month that is open nobody has signed anything: there is room for it.
  const signature = (what: string, who: Signatures['prepared']): TableCell[] =>
    line(what, who?.by ?? ' ', who ? showDay(who.on) : ' ');
  const { lender, agreement } = instrument;
  const of = [lender, agreement && `agreement ${agreement}`].filter(Boolean).join(', ');
  return {
    columnGap: 24,
    columns: [
      {
        width: '*',
        stack: [
          { text: context.company, color: inks.dim, margin: [0, 0, 0, 2] },
          { text: instrument.name, style: 'title' },
          { text: of, margin: [0, 2, 0, 0] },
          { text: `Schedule and position on ${showDay(context.on)}`, margin: [0, 2, 0, 0] },
        ],
      },
      {
        width: 216,
        layout: { ...ruled, hLineWidth: () => 0.5 },
        table: {
          headerRows: 0,
          widths: [54, '*', 66],
          body: [
            signature('Prepared by', context.signed?.prepared),
            signature('Approved by', context.signed?.approved),
            line('Terms', `version ${context.version}`, instrument.currency),
          ],
        },
      },
    ],
  };
}

const names: readonly (readonly [PositionFigure, string])[] = [
  ['outstanding', 'Outstanding'],
  ['unamortizedDiscount', 'Less unamortized discount'],
  ['unamortizedPremium', 'Plus unamortized premium'],
  ['unamortizedIssueCosts', 'Less unamortized issue costs'],
  ['carrying', 'Carrying amount'],
  ['current', 'of which current, due within twelve months'],
  ['nonCurrent', 'of which non-current'],
  ['accruedInterest', 'Accrued interest'],
  ['accruedFee', 'Accrued fee on the unused part'],
  ['unpaidInterest', 'Interest unpaid or deferred'],
  ['deferredCosts', 'Costs deferred as an asset'],
  ['overpaid', 'Overpaid to the lender'],
];
const always: readonly PositionFigure[] = [
  'outstanding',
  'carrying',
  'current',
  'nonCurrent',
  'accruedInterest',
];

function positionPart({ at, now, accrued }: PositionRecord, digits: Count): Content {
  const known = now ?? at;
  const figures = names
    .filter(([figure]) => always.includes(figure) || at[figure] !== 0 || known[figure] !== 0)
    .map(([figure, name]): TableCell[] => {
      const cells = [name, showAmount(at[figure], digits)];
      if (!now) return cells;
      return [...cells, known[figure] === at[figure] ? '' : showAmount(known[figure], digits)];
    });
  const steps = accrued.steps.map(({ label, amount, text }): TableCell[] => [
    showText(label),
    text === undefined ? (amount === undefined ? '' : showAmount(amount, digits)) : showText(text),
  ]);
  const rounded = [accrued.unrounded && `unrounded ${accrued.unrounded}`, accrued.rounding]
    .filter(Boolean)
    .join(', ');
  return {
    columnGap: 24,
    columns: [
      now
        ? table(['Figure', 'As reported', 'As known now'], figures, ['*', 'auto', 'auto'], [1, 2])
        : table(['Figure', 'Amount'], figures, ['*', 'auto'], [1]),
      table(
        ['How the accrued interest is made', ''],
        [...steps, ...(rounded ? [[{ text: rounded, colSpan: 2, color: inks.dim }, '']] : [])],
        ['*', 'auto'],
        [1],
      ),
    ],
  };
}

function proofsPart(proofs: readonly Proof[], digits: Count): Content {
  const rows = proofs.map(({ name, holds, difference }): TableCell[] => [
    name,
    showAmount(difference, digits),
    holds ? 'holds' : { text: 'FAILS', bold: true, alignment: 'right' },
  ]);
  return table(
    ['Worked out again from the terms', 'Difference', 'Result'],
    rows,
    ['*', 'auto', 'auto'],
    [1, 2],
  );
}

function eventsPart(all: InstrumentRecord['events']): Content[] {
  if (all.length === 0) return [];
  // Of very many those entered last: the workbook has the others too.
  const events = all.slice(-mostRowsListed);
  const left = all.length - events.length;
  const listed = table(
    ['On', 'What happened'],
    events.map((event) => [...event]),
    [80, '*'],
    [],
  );
  if (left === 0) return [heading('Events'), listed];
  const text = `The last ${events.length} of ${all.length} as they were entered; the workbook of the schedule has each of them.`;
  return [heading('Events'), listed, { text, color: inks.dim }];
}

function noticesPart(notices: readonly string[]): Content[] {
  if (notices.length === 0) return [];
  return [heading('To be noted'), { ul: notices.map((notice) => showText(notice)) }];
}
