import { Router } from 'express';
import type { Knex } from 'knex';
import { endpoints } from '@coffer/contract';
import { logUnworkable, serve } from '../http/route.ts';
import type { FileThread } from '../workers/file-thread.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { portfolioFileRoutes } from './portfolio-file-routes.ts';
import { portfolioOver, triedPortfolio } from './portfolio-over.ts';

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
  router.use(portfolioFileRoutes(database, figures, files));
  return router;
}
