import { Router } from 'express';
import type { Knex } from 'knex';
import { downloads, endpoints } from '@coffer/contract';
import { writeCsv } from '../http/csv.ts';
import { serve, serveFile } from '../http/route.ts';
import { sendAsFile } from '../http/send-file.ts';
import { checkTrail } from './trail.ts';
import { trailView, wholeTrail } from './trail-view.ts';

const columns = ['event', 'at', 'by', 'what', 'changed', 'before', 'after'] as const;

/** The audit trail as it is read: sentences with old and new, as a file, and whether it is whole. */
export function trailRoutes(database: Knex): Router {
  const router = Router();
  serve(router, database, endpoints.trail, ({ query, person, database: on }) =>
    trailView(on, person.companyId, query),
  );
  serve(router, database, endpoints.trailChecked, ({ database: on }) => checkTrail(on));
  serveFile(router, downloads.trailCsv, async ({ query, person, response }) => {
    sendAsFile(response, 'Audit trail.csv', 'text/csv; charset=utf-8');
    response.write(writeCsv(columns, []));
    for await (const events of wholeTrail(database, person.companyId, query)) {
      const rows = events.flatMap(({ id, at, by, sentence, changes }) =>
        (changes.length === 0 ? [{ name: '', before: '', after: '' }] : changes).map((change) => ({
          event: id,
          at,
          by,
          what: sentence,
          changed: change.name,
          before: change.before,
          after: change.after,
        })),
      );
      if (rows.length > 0) response.write(writeCsv(columns, rows, false));
    }
    response.end();
  });
  return router;
}
