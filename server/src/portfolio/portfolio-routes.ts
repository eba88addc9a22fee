import { Router } from 'express';
import type { Knex } from 'knex';
import { formatDay, mostPeriods, parseDay, portfolioPeriods, type CalendarDay } from '@coffer/core';
import { endpoints, type PortfolioRow, type Unworkable } from '@coffer/contract';
import { companyOf } from '../company/company-store.ts';
import { faultyInput } from '../http/refusal.ts';
import { logUnworkable, serve } from '../http/route.ts';
import { newestVersions } from '../instruments/instrument-store.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';

/** The company's instruments over time. */
export function portfolioRoutes(database: Knex, figures: FigureThreads): Router {
  const router = Router();
  serve(router, database, endpoints.portfolio, async ({ query, person, request, database: on }) => {
    const { fiscalYearEndMonth } = await companyOf(on, person.companyId);
    const periods = portfolioPeriods(
      query.by,
      parseDay(query.from) as CalendarDay,
      parseDay(query.to) as CalendarDay,
      fiscalYearEndMonth,
    );
    if (periods.length === 0 || periods.length > mostPeriods) {
      const message = `From ${query.from} to ${query.to} are ${periods.length} periods; ask for 1 to ${mostPeriods}.`;
      throw faultyInput([{ key: 'to', message }]);
    }
    const items = (await newestVersions(on, person.companyId)).map((version) => ({ version }));
    const rows: PortfolioRow[] = [];
    const unworkable: Unworkable[] = [];
    for (const worked of await figures.each('portfolio', { periods, show: query.show }, items)) {
      if ('unworkable' in worked) unworkable.push(worked.unworkable);
      else if (worked.made) rows.push(worked.made);
    }
    logUnworkable(request, unworkable);
    const named = periods.map(({ from, to }) => ({ from: formatDay(from), to: formatDay(to) }));
    return { periods: named, rows, unworkable };
  });
  return router;
}
