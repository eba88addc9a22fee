import { Router } from 'express';
import type { Knex } from 'knex';
import { formatDay, parseDay, portfolioPeriods, type CalendarDay } from '@coffer/core';
import {
  downloads,
  endpoints,
  type PortfolioQuery,
  type PortfolioRow,
  type PortfolioView,
  type Unworkable,
} from '@coffer/contract';
import { companyOf } from '../company/company-store.ts';
import { faultyInput } from '../http/refusal.ts';
import { logUnworkable, serve, serveFile } from '../http/route.ts';
import { sendAsFile } from '../http/send-file.ts';
import { newestVersions } from '../instruments/instrument-store.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { portfolioCsv, writePortfolioWorkbook } from './portfolio-files.ts';

/** The company's instruments over time, and as files. */
export function portfolioRoutes(database: Knex, figures: FigureThreads): Router {
  const router = Router();
  serve(router, database, endpoints.portfolio, async ({ query, person, request, database: on }) => {
    const { view } = await portfolioOver(on, figures, person.companyId, query);
    logUnworkable(request, view.unworkable);
    return view;
  });
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
  return router;
}

/** Periods worked out at once: ten years of months; the dearest measure of the dearest instrument keeps a thread a second. */
const mostAtOnce = 120;

/** Works out every instrument over the periods. Throws {@link Refusal} 422 for none, or for too many. */
async function portfolioOver(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  { from, to, by, show }: PortfolioQuery,
): Promise<{ view: PortfolioView; digits: number }> {
  const { fiscalYearEndMonth, digits } = await companyOf(database, companyId);
  const [first, last] = [parseDay(from) as CalendarDay, parseDay(to) as CalendarDay];
  const periods = portfolioPeriods(by, first, last, fiscalYearEndMonth);
  if (periods.length === 0 || periods.length > mostAtOnce) {
    const message = `From ${from} to ${to} are ${periods.length} periods; ask for 1 to ${mostAtOnce}.`;
    throw faultyInput([{ key: 'to', message }]);
  }
  const items = (await newestVersions(database, companyId)).map((version) => ({ version }));
  const rows: PortfolioRow[] = [];
  const unworkable: Unworkable[] = [];
  for (const worked of await figures.each('portfolio', { periods, show }, items)) {
    if ('unworkable' in worked) unworkable.push(worked.unworkable);
    else if (worked.made) rows.push(worked.made);
  }
  const named = periods.map((period) => ({ from: formatDay(period.from), to: formatDay(period.to) }));
  return { view: { periods: named, rows, unworkable }, digits };
}
