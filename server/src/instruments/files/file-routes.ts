import { Router } from 'express';
import type { Knex } from 'knex';
import { parseDay, type CalendarDay } from '@coffer/core';
import { downloads, isOwed, usualHabits } from '@coffer/contract';
import { habitsOf } from '../../company/settings.ts';
import { companyOf } from '../../company/company-store.ts';
import { signaturesOf } from '../../periods/month-steps.ts';
import { asksForTwo } from '../../periods/second-person.ts';
import { serveFile, type FileCall } from '../../http/route.ts';
import { sendAsFile } from '../../http/send-file.ts';
import type { FigureThreads } from '../../workers/figure-threads.ts';
import type { FileThread } from '../../workers/file-thread.ts';
import { newestVersion, reportedVersion } from '../instrument-store.ts';
import { anyDocumentOf, documentOf, madeOf, NotWorkedOut, type StoredVersion } from '../known-instruments.ts';

/** Who asks for a file, and of which instrument. */
type OfInstrument = Pick<FileCall<typeof downloads.scheduleCsv>, 'person' | 'params'>;

/** An instrument's document, schedule and working paper as files, for whoever is logged in. */
export function fileRoutes(database: Knex, figures: FigureThreads, files: FileThread): Router {
  const router = Router();
  const newest = ({ person, params }: OfInstrument): Promise<StoredVersion> =>
    newestVersion(database, person.companyId, params.id);
  /** The newest version of what is owed, and its name, read before a thread is given it. Throws `NotWorkedOut`. */
  const owed = async (call: OfInstrument): Promise<{ version: StoredVersion; name: string }> => {
    const version = await newest(call);
    if (!isOwed(anyDocumentOf(version))) {
      throw new NotWorkedOut('A fund has no such file; it is taken out as a document.');
    }
    return { version, name: documentOf(version).name };
  };

  serveFile(router, downloads.instrumentDocument, async (call) => {
    const document = anyDocumentOf(await newest(call));
    sendAsFile(call.response, `${document.name}.json`, downloads.instrumentDocument.type);
    call.response.end(`${JSON.stringify(document, null, 2)}\n`);
  });

  serveFile(router, downloads.scheduleCsv, async (call) => {
    const { version, name } = await owed(call);
    const rows = madeOf(await figures.one('published-rows', undefined, { version }));
    const csv = await files.make({ file: 'csv', rows });
    sendAsFile(call.response, `${name} schedule.csv`, 'text/csv; charset=utf-8');
    call.response.end(csv);
  });

  serveFile(router, downloads.scheduleWorkbook, async (call) => {
    const { version, name } = await owed(call);
    // A workbook is for other programs: its words keep to one way of writing numbers and days.
    const record = madeOf(await figures.one('instrument-record', { habits: usualHabits }, { version }));
    const book = await files.make({ file: 'workbook', record, version: version.version });
    const { type } = downloads.scheduleWorkbook;
    sendAsFile(call.response, `${name} schedule.xlsx`, type);
    call.response.end(book);
  });

  serveFile(router, downloads.workingPaper, async (call) => {
    const { on } = call.query;
    const { version: latest, name } = await owed(call);
    // Of a closed day the paper shows what was reported, from the version it came from.
    const version = (await reportedVersion(database, latest.id, on)) ?? latest;
    const { name: company, fiscalYearEndMonth } = await companyOf(database, call.person.companyId);
    const { habits } = await habitsOf(database, call.person.companyId);
    const context = {
      company,
      fiscalYearEndMonth,
      habits,
      alone: !(await asksForTwo(database, call.person.companyId)),
      version: version.version,
      on,
      signed: await signaturesOf(database, call.person.companyId, on),
      madeBy: call.person.name,
      madeAt: `${new Date().toISOString().slice(0, 16).replace('T', ' ')} UTC`,
    };
    const changed = version.version < latest.version ? latest : undefined;
    const asked = { habits, on: parseDay(on) as CalendarDay };
    const record = madeOf(await figures.one('paper-record', asked, { version, newest: changed }));
    const paper = await files.make({ file: 'working-paper', record, context });
    const { type } = downloads.workingPaper;
    sendAsFile(call.response, `${name} working paper ${on}.pdf`, type);
    call.response.end(paper);
  });
  return router;
}
