import type { Content, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces';
import {
  showDay,
  showMovement,
  type Habits,
  type PortfolioQuery,
  type PortfolioView,
} from '@coffer/contract';
import { closedBy, heading, inks, table } from '../instruments/files/paper-parts.ts';
import { linesOf } from './portfolio-lines.ts';

/** What a paper says beside the portfolio itself. */
export interface PortfolioPaperContext {
  readonly company: string;
  readonly currency: string;
  readonly digits: number;
  /** How the company writes numbers and days. */
  readonly habits: Habits;
  readonly asked: PortfolioQuery;
  /** The scenario that the figures are of; terms as they are where none is named. */
  readonly scenario?: string;
  /** Whether months of the company are closed by one person, which every paper says. */
  readonly alone: boolean;
  readonly madeBy: string;
  /** Day and time it was made, in words. */
  readonly madeAt: string;
}

/** Periods beside each other on a page. */
const perPage = 12;

const measureNames: Readonly<Record<PortfolioQuery['show'], string>> = {
  closing: 'Closing balance at the end of each period',
  carrying: 'Carrying amount at the end of each period',
  accrued: 'Accrued interest at the end of each period',
  current: 'Current portion at the end of each period',
  payment: 'Payments of each period',
  interest: 'Interest paid in each period',
  expense: 'Interest expense of each period',
  principal: 'Principal repaid in each period',
};

/** The portfolio over time on paper, twelve periods side by side. */
export function portfolioPaper(view: PortfolioView, context: PortfolioPaperContext): TDocumentDefinitions {
  const { company, currency, digits, asked, madeBy, madeAt } = context;
  const of = context.scenario === undefined ? '' : `, scenario ${context.scenario}`;
  const title = `${measureNames[asked.show]}${of}`;
  const lines = linesOf(view);
  const blocks: Content[] = [];
  for (let from = 0; from < view.periods.length; from += perPage) {
    const periods = view.periods.slice(from, from + perPage);
    const rows = lines.map(({ heads, values }, at) => {
      const last = at === lines.length - 1;
      const cell = (text: string, right: boolean): TableCell => ({
        text,
        bold: last,
        alignment: right ? 'right' : 'left',
      });
      return [
        cell(heads['name'] ?? '', false),
        ...periods.map((_, index) => cell(showMovement(values[from + index] ?? 0, digits), true)),
      ];
    });
    blocks.push(
      heading(`${showDay(periods[0]?.from ?? '')} to ${showDay(periods.at(-1)?.to ?? '')}`),
      table(
        ['Instrument', ...periods.map(({ to }) => showDay(to))],
        rows,
        [118, ...periods.map(() => '*')],
        periods.map((_, index) => index + 1),
      ),
    );
  }
  const off = view.rows.filter((row) => row.off !== 0).map(({ name }) => name);
  const proof =
    off.length === 0
      ? `Opening + drawn + interest added − principal repaid = closing holds for each of ${view.rows.length} instruments and for all together.`
      : `Opening + drawn + interest added − principal repaid = closing does not hold for ${off.join(', ')}.`;
  return {
    pageSize: 'A4',
    pageOrientation: 'landscape',
    pageMargins: [36, 36, 36, 40],
    info: { title: `${title}: ${asked.from} to ${asked.to}`, author: madeBy, creator: 'Coffer' },
    defaultStyle: { font: 'Sans', fontSize: 6.4, color: inks.ink },
    styles: { heading: { bold: true, fontSize: 9, margin: [0, 12, 0, 4] } },
    footer: (page: number, pages: number) => ({
      margin: [36, 12, 36, 0],
      color: inks.dim,
      columns: [
        {
          text: `${company} · ${title} · taken out by ${madeBy} · made with Coffer ${madeAt}${closedBy(context)}`,
        },
        { text: `page ${page} of ${pages}`, alignment: 'right', width: 'auto' },
      ],
    }),
    content: [
      { text: company, color: inks.dim, fontSize: 8 },
      { text: title, bold: true, fontSize: 15 },
      { text: `${currency}, as known now`, color: inks.dim, fontSize: 8 },
      ...blocks,
      { text: proof, margin: [0, 8, 0, 0] },
      ...view.unworkable.map(({ name, message }): Content => ({
        text: `Left out: ${name}. ${message}`,
        margin: [0, 2, 0, 0],
      })),
    ],
  };
}
