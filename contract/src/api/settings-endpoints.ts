import { endpoint } from './endpoint.ts';
import { administering } from './permissions.ts';
import { settingsChange, settingsView } from './settings-views.ts';

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
} as const;
