import { PassThrough } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { Router } from 'express';
import type { Knex } from 'knex';
import { downloads, type EntryView } from '@coffer/contract';
import { companyOf } from '../../company/company-store.ts';
import { habitsOf } from '../../company/settings.ts';
import { serveFile, type Person } from '../../http/route.ts';
import { sendAsFile } from '../../http/send-file.ts';
import { longCalls } from '../../http/turns.ts';
import type { FigureThreads } from '../../workers/figure-threads.ts';
import type { FileThread } from '../../workers/file-thread.ts';
import { asksForTwo } from '../second-person.ts';
import { mostListed, type ClosePaperContext } from './close-paper.ts';
import { readCloseRecord } from './read-close-record.ts';
import { writeCloseWorkbook } from './close-workbook.ts';

/** The close of a month as a working paper and as a workbook, each of one moment. */
export function closePaperRoutes(database: Knex, figures: FigureThreads, files: FileThread): Router {
  const router = Router();
  const name = (endsOn: string): string => `Close ${endsOn.slice(0, 7)}`;
  const atOneMoment = <Answer>(read: (on: Knex) => Promise<Answer>): Promise<Answer> =>
    longCalls.take(() => database.transaction(read, { isolationLevel: 'repeatable read', readOnly: true }));
  serveFile(router, downloads.closePaper, async ({ params: { endsOn }, person, response }) => {
    const paper = await atOneMoment(async (on) => {
      const { listed, ...record } = await readCloseRecord(on, figures, person, endsOn);
      const entries: EntryView[] = [];
      if (record.many <= mostListed) for await (const page of listed()) entries.push(...page);
      return { record: { ...record, entries }, context: await contextOf(on, person) };
    });
    const made = await files.make({ file: 'close-paper', ...paper });
    sendAsFile(response, `${name(endsOn)}.pdf`, downloads.closePaper.type);
    response.end(made);
  });
  serveFile(router, downloads.closeWorkbook, async ({ params: { endsOn }, person, response }) => {
    // Made first and sent then: who fetches slowly holds no moment of the database meanwhile.
    const made = await atOneMoment(async (on) => {
      const record = await readCloseRecord(on, figures, person, endsOn);
      const context = await contextOf(on, person);
      const book = new PassThrough();
      const [bytes] = await Promise.all([buffer(book), writeCloseWorkbook(book, record, context)]);
      return bytes;
    });
    sendAsFile(response, `${name(endsOn)}.xlsx`, downloads.closeWorkbook.type);
    response.end(made);
  });
  return router;
}

async function contextOf(database: Knex, { companyId, name: madeBy }: Person): Promise<ClosePaperContext> {
  const { name: company, currency, digits } = await companyOf(database, companyId);
  const { habits } = await habitsOf(database, companyId);
  const alone = !(await asksForTwo(database, companyId));
  const madeAt = `${new Date().toISOString().slice(0, 16).replace('T', ' ')} UTC`;
  return { company, currency, digits, habits, alone, madeBy, madeAt };
}
