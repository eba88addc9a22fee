import { Buffer } from 'node:buffer';
import { PassThrough } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { Router } from 'express';
import type { Knex } from 'knex';
import type * as v from 'valibot';
import { formatDay, parseDay, portfolioPeriods, type CalendarDay, type PortfolioPeriod } from '@coffer/core';
import {
  downloads,
  endpoints,
  withTried,
  type ChangeFaults,
  type PortfolioQuery,
  type PortfolioRow,
  type PortfolioView,
  type TriedPortfolioView,
  type TriedRow,
  type Unworkable,
} from '@coffer/contract';
import { habitsOf } from '../company/settings.ts';
import { asksForTwo } from '../periods/second-person.ts';
import { companyOf } from '../company/company-store.ts';
import { faultyInput, Refusal } from '../http/refusal.ts';
import { logUnworkable, serve, serveFile, type Person } from '../http/route.ts';
import { sendAsFile } from '../http/send-file.ts';
import { newestVersions, newestVersionsOf } from '../instruments/instrument-store.ts';
import type { FileThread } from '../workers/file-thread.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { portfolioCsv, writePortfolioWorkbook } from './portfolio-files.ts';
import type { PortfolioPaperContext } from './portfolio-paper.ts';

/** The company's instruments over time, and as files. */
export function portfolioRoutes(database: Knex, figures: FigureThreads, files: FileThread): Router {
  const router = Router();
  serve(router, database, endpoints.portfolio, async ({ query, person, request, database: on }) => {
    const { view } = await portfolioOver(on, figures, person.companyId, query);
    logUnworkable(request, view.unworkable);
    return view;
  });
  serve(router, database, endpoints.tryPortfolio, ({ body, person, database: on }) =>
    triedPortfolio(on, figures, person.companyId, body),
  );
  const nameOf = ({ show, from, to }: PortfolioQuery): string => `Portfolio ${show} ${from} to ${to}`;
  serveFile(router, downloads.portfolioCsv, async ({ query, person, response }) => {
    const { view, digits } = await portfolioOver(database, figures, person.companyId, query);
    sendAsFile(response, `${nameOf(query)}.csv`, 'text/csv; charset=utf-8');
    response.end(portfolioCsv(view, digits));
  });
  serveFile(router, downloads.portfolioWorkbook, async ({ query, person, response }) => {
    const { view, digits } = await portfolioOver(database, figures, person.companyId, query);
    sendAsFile(response, `${nameOf(query)}.xlsx`, downloads.portfolioWorkbook.type);
    await writePortfolioWorkbook(response, view, digits);
  });
  serveFile(router, downloads.portfolioPaper, async ({ query, person, response }) => {
    const { view } = await portfolioOver(database, figures, person.companyId, query);
    const paper = await paperOf(database, files, person, view, { asked: query });
    sendAsFile(response, `${nameOf(query)}.pdf`, downloads.portfolioPaper.type);
    response.end(paper);
  });
  serve(router, database, endpoints.triedPortfolioFile, async ({ body, person, database: on }) => {
    const { asked, scenario, as } = body;
    const { rows, faulty } = await triedPortfolio(on, figures, person.companyId, body);
    if (faulty.length > 0) throw unfit(faulty);
    const { view: asItIs, digits } = await portfolioOver(on, figures, person.companyId, asked);
    const view = withTried(asItIs, new Map(rows.map((row) => [row.id, row])));
    const name = `${nameOf(asked)}, scenario ${scenario}.${as}`;
    const { portfolioCsv: csv, portfolioWorkbook: book, portfolioPaper: paper } = downloads;
    switch (as) {
      case 'csv':
        return {
          name,
          type: `${csv.type}; charset=utf-8`,
          bytes: Buffer.from(portfolioCsv(view, digits, scenario)),
        };
      case 'xlsx': {
        const stream = new PassThrough();
        const writing = writePortfolioWorkbook(stream, view, digits, scenario);
        const [bytes] = await Promise.all([buffer(stream), writing]);
        return { name, type: book.type, bytes };
      }
      case 'pdf': {
        const bytes = await paperOf(on, files, person, view, { asked, scenario });
        return { name, type: paper.type, bytes };
      }
    }
  });
  return router;
}

/** That a scenario does not fit the instruments as they are now. */
function unfit(faulty: readonly ChangeFaults[]): Refusal {
  const named = faulty.map(
    ({ name, faults }) => `${name}: ${faults.map(({ message }) => message).join(' ')}`,
  );
  return new Refusal(
    422,
    'does-not-fit',
    `The scenario is taken out once all of it can be worked out. ${named.join(' ')}`,
  );
}

/** The portfolio on paper. Throws {@link Refusal} 422 where it is too much for one. */
async function paperOf(
  database: Knex,
  files: FileThread,
  person: Person,
  view: PortfolioView,
  of: Pick<PortfolioPaperContext, 'asked' | 'scenario'>,
): Promise<Uint8Array> {
  if (view.rows.length > mostOnPaper) {
    const message = `There are ${view.rows.length} instruments; a paper holds ${mostOnPaper}. Take out the workbook.`;
    throw new Refusal(422, 'too-much', message);
  }
  const { name: company, currency, digits } = await companyOf(database, person.companyId);
  const madeAt = `${new Date().toISOString().slice(0, 16).replace('T', ' ')} UTC`;
  const { habits } = await habitsOf(database, person.companyId);
  const alone = !(await asksForTwo(database, person.companyId));
  const context = { company, currency, digits, habits, alone, ...of, madeBy: person.name, madeAt };
  return files.make({ file: 'portfolio-paper', view, context });
}

/** Instruments that a paper holds; more are no paper that anybody reads. */
const mostOnPaper = 1000;

/** Periods worked out at once: ten years of months; the dearest measure of the dearest instrument keeps a thread a second. */
const mostAtOnce = 120;

/** The periods that are asked for. Throws {@link Refusal} 422 for none, or for too many. */
function periodsOf({ from, to, by }: PortfolioQuery, fiscalYearEndMonth: number): PortfolioPeriod[] {
  const [first, last] = [parseDay(from) as CalendarDay, parseDay(to) as CalendarDay];
  const periods = portfolioPeriods(by, first, last, fiscalYearEndMonth);
  if (periods.length > 0 && periods.length <= mostAtOnce) return periods;
  const message = `From ${from} to ${to} are ${periods.length} periods; ask for 1 to ${mostAtOnce}.`;
  throw faultyInput([{ key: 'to', message }]);
}

/** Works out every instrument over the periods. Throws {@link Refusal} 422. */
async function portfolioOver(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  query: PortfolioQuery,
): Promise<{ view: PortfolioView; digits: number }> {
  const { fiscalYearEndMonth, digits } = await companyOf(database, companyId);
  const periods = periodsOf(query, fiscalYearEndMonth);
  const items = (await newestVersions(database, companyId)).map((version) => ({ version }));
  const rows: PortfolioRow[] = [];
  const unworkable: Unworkable[] = [];
  for (const worked of await figures.each('portfolio', { periods, show: query.show }, items)) {
    if ('unworkable' in worked) unworkable.push(worked.unworkable);
    else if (worked.made) rows.push(worked.made);
  }
  const named = periods.map((period) => ({ from: formatDay(period.from), to: formatDay(period.to) }));
  return { view: { periods: named, rows, unworkable }, digits };
}

/** Works out what a scenario changes, over the periods. Throws {@link Refusal} 422, and 404 for other instruments. */
async function triedPortfolio(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  { asked, on, changes }: Pick<v.InferOutput<typeof endpoints.tryPortfolio.body>, 'asked' | 'on' | 'changes'>,
): Promise<TriedPortfolioView> {
  const { fiscalYearEndMonth } = await companyOf(database, companyId);
  const periods = periodsOf(asked, fiscalYearEndMonth);
  const ids = changes.map(({ instrumentId }) => instrumentId);
  const versions = new Map(
    (await newestVersionsOf(database, companyId, ids)).map((version) => [version.id, version]),
  );
  const items = changes.flatMap((change) => {
    const version = versions.get(change.instrumentId);
    return version ? [{ version, change }] : [];
  });
  const question = { periods, show: asked.show, on: parseDay(on) as CalendarDay };
  const rows: TriedRow[] = [];
  const faulty: ChangeFaults[] = [];
  for (const tried of await figures.each('tried-portfolio', question, items)) {
    if ('faults' in tried) faulty.push(tried);
    else rows.push(tried);
  }
  return { rows, faulty };
}
