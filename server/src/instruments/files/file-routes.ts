import { Router, type Request, type Response } from 'express';
import type { Knex } from 'knex';
import * as v from 'valibot';
import { dayText, instrumentId, type InstrumentDocument } from '@coffer/contract';
import { companyOf } from '../../company/company-store.ts';
import { authorized, checked, type Person } from '../../http/route.ts';
import { sendAsFile } from '../../http/send-file.ts';
import type { FileThread } from '../../workers/file-thread.ts';
import { newestVersion, reportedVersion } from '../instrument-store.ts';
import { documentOf, type StoredVersion } from '../known-instruments.ts';

const inPath = v.object({ id: instrumentId });
const inQuery = v.object({ on: dayText });
const workbookType = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

/** What a file is made of. */
interface Wanted {
  readonly version: StoredVersion;
  readonly document: InstrumentDocument;
  readonly person: Person;
  readonly request: Request;
  readonly response: Response;
}

/** An instrument's document, schedule and working paper as files, for whoever is logged in. */
export function fileRoutes(database: Knex, files: FileThread): Router {
  const router = Router();
  const file = (name: string, send: (wanted: Wanted) => Promise<void> | void): void => {
    router.get(`/api/instruments/:id/${name}`, async (request, response) => {
      const person = authorized(request, 'logged-in');
      const { id } = checked(inPath, request.params);
      const version = await newestVersion(database, person.companyId, id);
      await send({ version, document: documentOf(version), person, request, response });
    });
  };

  file('document.json', ({ document, response }) => {
    sendAsFile(response, `${document.name}.json`, 'application/json');
    response.end(`${JSON.stringify(document, null, 2)}\n`);
  });

  file('schedule.csv', async ({ version, document, response }) => {
    const rows = await files.make({ file: 'csv', version });
    sendAsFile(response, `${document.name} schedule.csv`, 'text/csv; charset=utf-8');
    response.end(rows);
  });

  file('schedule.xlsx', async ({ version, document, response }) => {
    const book = await files.make({ file: 'workbook', version });
    sendAsFile(response, `${document.name} schedule.xlsx`, workbookType);
    response.end(book);
  });

  file('working-paper.pdf', async ({ version: newest, document, person, request, response }) => {
    const { on } = checked(inQuery, request.query);
    // Of a closed day the paper shows what was reported, from the version it came from.
    const reported = await reportedVersion(database, newest.id, on);
    const version = reported ?? newest;
    const { name: company, fiscalYearEndMonth } = await companyOf(database, person.companyId);
    const madeAt = `${new Date().toISOString().slice(0, 16).replace('T', ' ')} UTC`;
    const context = {
      company,
      fiscalYearEndMonth,
      version: version.version,
      on,
      preparedBy: person.name,
      madeAt,
    };
    const changed = version.version < newest.version ? newest : undefined;
    const paper = await files.make({ file: 'working-paper', version, context, newest: changed });
    sendAsFile(response, `${document.name} working paper ${on}.pdf`, 'application/pdf');
    response.end(paper);
  });
  return router;
}
