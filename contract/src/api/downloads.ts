import * as v from 'valibot';
import { dayText } from '../document/scalars.ts';
import { addressOf } from './address.ts';
import { catchUpsQuery } from './correction-views.ts';
import { journalQuery, portfolioQuery } from './endpoints.ts';
import { instrumentId } from './ids.ts';
import { paperId } from './paper-views.ts';
import { trailQuery } from './trail-views.ts';

/** A file that can be fetched with a plain link by whoever is logged in. */
export interface Download<
  Params extends v.GenericSchema = v.GenericSchema,
  Query extends v.GenericSchema = v.GenericSchema,
> {
  readonly path: string;
  readonly summary: string;
  /** Its media type. */
  readonly type: string;
  readonly params: Params;
  readonly query: Query;
}

const workbook = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
const ofInstrument = { params: v.object({ id: instrumentId }), query: v.object({}) };
const ofMonth = { params: v.object({ endsOn: dayText }), query: v.object({}) };
const ofPortfolio = { params: v.object({}), query: portfolioQuery };
const ofJournal = { params: v.object({}), query: journalQuery };

/** Every file of the HTTP interface. */
export const downloads = {
  instrumentDocument: {
    path: '/api/instruments/:id/document.json',
    summary: 'The instrument as a document',
    type: 'application/json',
    ...ofInstrument,
  },
  scheduleCsv: {
    path: '/api/instruments/:id/schedule.csv',
    summary: 'The schedule',
    type: 'text/csv',
    ...ofInstrument,
  },
  scheduleWorkbook: {
    path: '/api/instruments/:id/schedule.xlsx',
    summary: 'The schedule with terms and proofs as a workbook',
    type: workbook,
    ...ofInstrument,
  },
  workingPaper: {
    path: '/api/instruments/:id/working-paper.pdf',
    summary: 'Terms, position on ?on, proofs, events and schedule as a working paper',
    type: 'application/pdf',
    ...ofInstrument,
    query: v.object({ on: dayText }),
  },
  paper: {
    path: '/api/instruments/:id/papers/:paper',
    summary: 'A paper of the instrument, of the type that its bytes tell',
    type: 'application/octet-stream',
    params: v.object({ id: instrumentId, paper: paperId }),
    query: v.object({}),
  },
  closePaper: {
    path: '/api/periods/:endsOn/close.pdf',
    summary:
      'The close of a month as a working paper: its list, who did what when, figures, differences, entries, digest',
    type: 'application/pdf',
    ...ofMonth,
  },
  closeWorkbook: {
    path: '/api/periods/:endsOn/close.xlsx',
    summary: 'The same as a workbook, with every instrument and every entry',
    type: workbook,
    ...ofMonth,
  },
  catchUpsCsv: {
    path: '/api/catch-ups.csv',
    summary: 'What the months of a span book for months closed before, a line of an entry each',
    type: 'text/csv',
    params: v.object({}),
    query: catchUpsQuery,
  },
  trailCsv: {
    path: '/api/trail.csv',
    summary: 'What happened in the company, a line of what was changed each',
    type: 'text/csv',
    params: v.object({}),
    query: trailQuery,
  },
  portfolioCsv: {
    path: '/api/portfolio.csv',
    summary: 'Every instrument over periods for one measure, a line an instrument, with totals',
    type: 'text/csv',
    ...ofPortfolio,
  },
  portfolioWorkbook: {
    path: '/api/portfolio.xlsx',
    summary: 'The same as a workbook',
    type: workbook,
    ...ofPortfolio,
  },
  portfolioPaper: {
    path: '/api/portfolio.pdf',
    summary: 'The same as a working paper, of 1,000 instruments at most',
    type: 'application/pdf',
    ...ofPortfolio,
  },
  bundle: {
    path: '/api/company.zip',
    summary:
      'Everything that the company has: instruments with all versions, settings, accounts, rates, papers, entries',
    type: 'application/zip',
    params: v.object({}),
    query: v.object({}),
  },
  journalCsv: {
    path: '/api/journal.csv',
    summary: 'Posted entries from ?from to ?to, a line a row',
    type: 'text/csv',
    ...ofJournal,
  },
  journalWorkbook: {
    path: '/api/journal.xlsx',
    summary: 'The same as a workbook',
    type: workbook,
    ...ofJournal,
  },
} as const satisfies Record<string, Download>;

/** The address of a file. */
export function downloadAddress<Of extends Download>(
  { path }: Of,
  params: v.InferInput<Of['params']>,
  query: v.InferInput<Of['query']>,
): string {
  return addressOf(path, params as Record<string, string>, query as Record<string, string | undefined>);
}
