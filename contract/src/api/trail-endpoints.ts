import { endpoint } from './endpoint.ts';
import { trailChecked, trailQuery, trailView } from './trail-views.ts';

/** The audit trail, as it is read. */
export const trailEndpoints = {
  trail: endpoint(
    'get',
    '/api/trail',
    'What happened in the company, as sentences with old and new, newest first, 100 at a time',
    'member',
    { query: trailQuery, answer: trailView },
  ),
  trailChecked: endpoint(
    'get',
    '/api/trail/checked',
    'The audit trail of the installation, followed from its first event to its last',
    'member',
    { answer: trailChecked },
  ),
} as const;
