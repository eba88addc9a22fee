import { Router } from 'express';
import type { Knex } from 'knex';
import { endpoints } from '@coffer/contract';
import { serve } from '../http/route.ts';
import { companyView } from './company-store.ts';

/** The company and its periods. */
export function companyRoutes(database: Knex): Router {
  const router = Router();
  serve(router, database, endpoints.company, ({ person, database: on }) => companyView(on, person.companyId));
  return router;
}
