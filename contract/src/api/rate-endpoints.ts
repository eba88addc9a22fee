import * as v from 'valibot';
import { confirm } from './confirm.ts';
import { endpoint } from './endpoint.ts';
import { instrumentId } from './ids.ts';
import { preparing } from './permissions.ts';
import { fetchedView, fixingsBody, followView, keepFixingsBody, ratesView } from './rate-views.ts';

/** The reference rates of a company. */
export const rateEndpoints = {
  rates: endpoint('get', '/api/rates', 'The reference rates of the company, with their fixings', 'member', {
    answer: ratesView,
  }),
  lookAtFixings: endpoint(
    'post',
    '/api/rates/looked-at',
    'What new fixings of an index do to each instrument that follows it; nothing is kept',
    preparing,
    { body: fixingsBody, changes: false, answer: followView },
  ),
  keepFixings: endpoint(
    'post',
    '/api/rates',
    'Keep new fixings of an index, and give the instruments named a new version that takes them, all or none',
    preparing,
    {
      body: v.strictObject({ ...keepFixingsBody.entries, confirm }),
      long: true,
      answer: v.strictObject({ saved: v.array(v.strictObject({ id: instrumentId, version: v.number() })) }),
      idempotent: true,
    },
  ),
  fetchFixings: endpoint(
    'post',
    '/api/rates/fetched',
    'What the rate service has published and the company has not kept so; nothing is kept',
    preparing,
    { changes: false, answer: fetchedView },
  ),
} as const;
