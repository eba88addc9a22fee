import { Router } from 'express';
import type { Knex } from 'knex';
import { endpoints } from '@coffer/contract';
import { Refusal } from '../http/refusal.ts';
import { serve } from '../http/route.ts';

/** Whether the application and its database answer. */
export function healthRoutes(database: Knex): Router {
  const router = Router();
  serve(router, database, endpoints.health, async () => {
    try {
      await database.raw('select 1').timeout(2000);
    } catch {
      throw new Refusal(503, 'no-database', 'The application runs, but its database does not answer.');
    }
    return { status: 'ok' as const, database: 'ok' as const };
  });
  return router;
}
