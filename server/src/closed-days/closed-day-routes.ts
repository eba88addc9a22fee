import { Router } from 'express';
import type { Knex } from 'knex';
import { endpoints } from '@coffer/contract';
import { serve } from '../http/route.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { lookAtClosedDays, takeCompanysClosedDays } from './closed-days.ts';

/** How the closed days of a company reach its instruments. */
export function closedDayRoutes(database: Knex, figures: FigureThreads): Router {
  const router = Router();
  serve(router, database, endpoints.closedDays, async ({ person, database: on }) => {
    const { view } = await lookAtClosedDays(on, figures, person.companyId);
    return view;
  });
  serve(router, database, endpoints.takeClosedDays, ({ body, person, database: on }) =>
    takeCompanysClosedDays(on, figures, person, body),
  );
  return router;
}
