import { Router, type Request, type Response } from 'express';
import type { Knex } from 'knex';
import * as v from 'valibot';
import { dayText, instrumentId, scheduleJson } from '@coffer/contract';
import { companyOf } from '../../company/company-store.ts';
import { writeCsv } from '../../http/csv.ts';
import { authorized, checked, type Person } from '../../http/route.ts';
import { sendAsFile } from '../../http/send-file.ts';
import type { Workers } from '../../workers/pool.ts';
import { newestVersion } from '../instrument-store.ts';
import { knownInstrument, type KnownInstrument } from '../known-instruments.ts';

const inPath = v.object({ id: instrumentId });
const inQuery = v.object({ on: dayText });
const workbookType = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

/** What a file is made of. */
interface Wanted {
  readonly instrument: KnownInstrument;
  readonly person: Person;
  readonly request: Request;
  readonly response: Response;
}

/** An instrument's document, schedule and working paper as files, for whoever is logged in. */
export function fileRoutes(database: Knex, workers: Workers): Router {
  const router = Router();
  const file = (name: string, send: (wanted: Wanted) => Promise<void> | void): void => {
    router.get(`/api/instruments/:id/${name}`, async (request, response) => {
      const person = authorized(request, 'logged-in');
      const { id } = checked(inPath, request.params);
      const instrument = knownInstrument(await newestVersion(database, person.companyId, id));
      await send({ instrument, person, request, response });
    });
  };

  file('document.json', ({ instrument: { document }, response }) => {
    sendAsFile(response, `${document.name}.json`, 'application/json');
    response.end(`${JSON.stringify(document, null, 2)}\n`);
  });

  file('schedule.csv', ({ instrument: { document, schedule }, response }) => {
    const rows = scheduleJson(schedule)['rows'] as Record<string, string | number | null>[];
    const columns = [...new Set(rows.flatMap((row) => Object.keys(row)))];
    sendAsFile(response, `${document.name} schedule.csv`, 'text/csv; charset=utf-8');
    response.end(writeCsv(columns, rows));
  });

  file('schedule.xlsx', async ({ instrument, response }) => {
    const { document, version } = instrument;
    const book = await workers.file({ file: 'workbook', document, version });
    sendAsFile(response, `${document.name} schedule.xlsx`, workbookType);
    response.end(book);
  });

  file('working-paper.pdf', async ({ instrument, person, request, response }) => {
    const { on } = checked(inQuery, request.query);
    const { name: company, fiscalYearEndMonth } = await companyOf(database, person.companyId);
    const { document, version } = instrument;
    const madeAt = `${new Date().toISOString().slice(0, 16).replace('T', ' ')} UTC`;
    const context = { company, fiscalYearEndMonth, version, on, preparedBy: person.name, madeAt };
    const paper = await workers.file({ file: 'working-paper', document, context });
    sendAsFile(response, `${document.name} working paper ${on}.pdf`, 'application/pdf');
    response.end(paper);
  });
  return router;
}
