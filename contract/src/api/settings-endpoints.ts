import * as v from 'valibot';
import { endpoint } from './endpoint.ts';
import { administering } from './permissions.ts';
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
