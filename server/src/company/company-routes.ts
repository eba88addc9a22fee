import { Router } from 'express';
import type { Knex } from 'knex';
import { endpoints } from '@coffer/contract';
import type { Clock } from '../clock.ts';
import { serve } from '../http/route.ts';
import { personViewOf, visitorBy } from '../session/who-calls.ts';
import { changeSettings } from './change-settings.ts';
import { companyView } from './company-view.ts';
import { countriesWithHolidays, publishedHolidays } from './holidays.ts';
import { makeCompany } from './make-company.ts';
import { settingsView } from './settings.ts';

/** The company, its periods and settings, and further companies. */
export function companyRoutes(database: Knex, today: Clock): Router {
  const router = Router();
  serve(router, database, endpoints.company, ({ person, database: on }) => companyView(on, person.companyId));
  serve(router, database, endpoints.settings, ({ person, database: on }) =>
    settingsView(on, person.companyId, today()),
  );
  serve(router, database, endpoints.changeSettings, async ({ body, person, database: on }) => {
    await changeSettings(on, person, body, today());
    return settingsView(on, person.companyId, today());
  });
  serve(router, database, endpoints.holidayCountries, async () => ({
    countries: await countriesWithHolidays(),
  }));
  serve(router, database, endpoints.holidays, async ({ query }) => ({
    days: await publishedHolidays(query),
  }));
  serve(router, database, endpoints.makeCompany, async ({ body, visitor, database: on }) => {
    await makeCompany(on, visitor.id, body, 'name');
    return { person: personViewOf((await visitorBy(on, visitor.id)) ?? visitor) };
  });
  return router;
}
