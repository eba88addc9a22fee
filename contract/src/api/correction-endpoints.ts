import * as v from 'valibot';
import { dayText } from '../document/scalars.ts';
import { catchUpsQuery, catchUpsView, monthCorrectedView } from './correction-views.ts';
import { endpoint } from './endpoint.ts';

const ofPeriod = v.strictObject({ endsOn: dayText });

/** What closed months should have held otherwise. */
export const correctionEndpoints = {
  monthCorrected: endpoint(
    'get',
    '/api/periods/:endsOn/corrections',
    'A month as it was reported beside what is known of it now, account by account',
    'member',
    { params: ofPeriod, answer: monthCorrectedView },
  ),
  catchUps: endpoint(
    'get',
    '/api/catch-ups',
    'What the months of a span book for months closed before, with why, and what it comes to together',
    'member',
    { query: catchUpsQuery, answer: catchUpsView },
  ),
} as const;
