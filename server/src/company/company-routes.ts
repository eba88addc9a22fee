import { Router } from 'express';
import type { Knex } from 'knex';
import { endpoints } from '@coffer/contract';
import { Refusal } from '../http/refusal.ts';
import { serve } from '../http/route.ts';
import { personViewOf, visitorBy } from '../session/who-calls.ts';
import { companyView } from './company-store.ts';
import { makeCompany } from './make-company.ts';

/** The company and its periods, and further companies. */
export function companyRoutes(database: Knex): Router {
  const router = Router();
  serve(router, database, endpoints.company, ({ person, database: on }) => companyView(on, person.companyId));
  serve(router, database, endpoints.makeCompany, async ({ body, visitor, database: on }) => {
    if (!visitor.memberships.some(({ role }) => role.includes('administer'))) {
      throw new Refusal(
        403,
        'not-allowed',
        'Only who administers a company here makes another. Ask an administrator.',
      );
    }
    await makeCompany(on, visitor.id, body, 'name');
    return { person: personViewOf((await visitorBy(on, visitor.id)) ?? visitor) };
  });
  return router;
}
