import * as v from 'valibot';
import { closedDaysView, takeClosedDaysBody } from './closed-day-views.ts';
import { confirm } from './confirm.ts';
import { endpoint } from './endpoint.ts';
import { instrumentId } from './ids.ts';
import { administering, preparing } from './permissions.ts';
import { closedDay, holidayCountries, holidaysOf, settingsChange, settingsView } from './settings-views.ts';

/** What a company decides about how it is shown and kept. */
export const settingsEndpoints = {
  settings: endpoint(
    'get',
    '/api/settings',
    'The settings of the company as they hold today, and every change to them',
    'member',
    { answer: settingsView },
  ),
  changeSettings: endpoint(
    'post',
    '/api/settings',
    'Change settings of the company from a day on; all of them or none',
    administering,
    { body: settingsChange, answer: settingsView },
  ),
  closedDays: endpoint(
    'get',
    '/api/closed-days',
    'The instruments that lack closed days of the company on which something falls due, and what taking them does to each',
    'member',
    { answer: closedDaysView },
  ),
  takeClosedDays: endpoint(
    'post',
    '/api/closed-days',
    'Give instruments a new version with the closed days of the company, all or none',
    preparing,
    {
      body: v.strictObject({ ...takeClosedDaysBody.entries, confirm }),
      long: true,
      answer: v.strictObject({ saved: v.array(v.strictObject({ id: instrumentId, version: v.number() })) }),
      idempotent: true,
    },
  ),
  holidayCountries: endpoint(
    'get',
    '/api/holidays/countries',
    'The countries whose published holidays can be proposed, with their regions',
    'member',
    { answer: holidayCountries },
  ),
  holidays: endpoint(
    'get',
    '/api/holidays',
    'The bank and public holidays of a country from one year to another, to be proposed as closed days; nothing is kept',
    'member',
    { query: holidaysOf, answer: v.strictObject({ days: v.array(closedDay) }) },
  ),
} as const;
