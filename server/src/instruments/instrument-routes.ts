import { Router, type Request } from 'express';
import type { Knex } from 'knex';
import * as v from 'valibot';
import { endpoints, faultsOf, instrumentId, scheduleJson } from '@coffer/contract';
import { faultyInput } from '../http/refusal.ts';
import { authorized, serve } from '../http/route.ts';
import { writeCsv } from '../http/csv.ts';
import { sendAsFile } from '../http/send-file.ts';
import { changeInstrument, createInstrument } from './change-instrument.ts';
import { newestVersion } from './instrument-store.ts';
import { instrumentView } from './instrument-view.ts';
import { knownInstrument } from './known-instruments.ts';

const inPath = v.object({ id: instrumentId });

/** The id in the address of a file. */
function idOf(request: Request): string {
  const read = v.safeParse(inPath, request.params);
  if (!read.success) throw faultyInput(faultsOf(read.issues));
  return read.output.id;
}

/** Taking on, reading and changing instruments; their documents and schedules as files. */
export function instrumentRoutes(database: Knex): Router {
  const router = Router();
  serve(router, database, endpoints.createInstrument, ({ body, person, database: on }) =>
    createInstrument(on, person, body.document),
  );
  serve(router, database, endpoints.instrument, ({ params, query, person, database: on }) =>
    instrumentView(on, person.companyId, params.id, query.version),
  );
  serve(router, database, endpoints.changeInstrument, ({ params, body, person, database: on }) =>
    changeInstrument(on, person, params.id, body),
  );

  router.get('/api/instruments/:id/document.json', async (request, response) => {
    const { companyId } = authorized(request, 'logged-in');
    const stored = await newestVersion(database, companyId, idOf(request));
    const { document } = knownInstrument(stored);
    sendAsFile(response, `${document.name}.json`, 'application/json');
    response.end(`${JSON.stringify(document, null, 2)}\n`);
  });

  router.get('/api/instruments/:id/schedule.csv', async (request, response) => {
    const { companyId } = authorized(request, 'logged-in');
    const stored = await newestVersion(database, companyId, idOf(request));
    const { document, schedule } = knownInstrument(stored);
    const rows = scheduleJson(schedule)['rows'] as Record<string, string | number | null>[];
    const columns = [...new Set(rows.flatMap((row) => Object.keys(row)))];
    sendAsFile(response, `${document.name} schedule.csv`, 'text/csv; charset=utf-8');
    response.end(writeCsv(columns, rows));
  });
  return router;
}
