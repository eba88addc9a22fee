import { Router } from 'express';
import type { Knex } from 'knex';
import { endpoints } from '@coffer/contract';
import { logUnworkable, serve } from '../http/route.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { registerOn } from './register-on.ts';

/** The register on a day. */
export function registerRoutes(database: Knex, figures: FigureThreads): Router {
  const router = Router();
  serve(router, database, endpoints.register, async ({ query, person, request, database: on }) => {
    const view = await registerOn(on, figures, person.companyId, query.on);
    logUnworkable(request, view.unworkable);
    return view;
  });
  return router;
}
