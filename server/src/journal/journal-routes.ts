import { Router, type Response } from 'express';
import type { Knex } from 'knex';
import { downloads, endpoints } from '@coffer/contract';
import { companyOf } from '../company/company-store.ts';
import { serve, serveFile, type FileCall } from '../http/route.ts';
import { sendAsFile } from '../http/send-file.ts';
import { writeJournalCsv, writeJournalWorkbook } from './journal-files.ts';
import { journalPage, journalTotals, type JournalSpan } from './journal-store.ts';

/** The journal by date, and as files. */
export function journalRoutes(database: Knex): Router {
  const router = Router();
  serve(router, database, endpoints.journal, async ({ query, person, database: on }) => {
    const { after, ...rest } = query;
    const span = { companyId: person.companyId, ...rest };
    return { ...(await journalPage(on, span, after)), ...(await journalTotals(on, span)) };
  });
  serveFile(router, downloads.journalCsv, async (call) => {
    const { span, digits } = await spanOf(database, call);
    nameFile(call.response, span, 'csv', 'text/csv; charset=utf-8');
    await writeJournalCsv(call.response, database, span, digits);
  });
  serveFile(router, downloads.journalWorkbook, async (call) => {
    const { span, digits } = await spanOf(database, call);
    nameFile(call.response, span, 'xlsx', downloads.journalWorkbook.type);
    await writeJournalWorkbook(call.response, database, span, digits);
  });
  return router;
}

function nameFile(response: Response, { from, to }: JournalSpan, ending: string, type: string): void {
  sendAsFile(response, `Journal ${from} to ${to}.${ending}`, type);
}

async function spanOf(
  database: Knex,
  { person, query }: Pick<FileCall<typeof downloads.journalCsv>, 'person' | 'query'>,
): Promise<{ span: JournalSpan; digits: number }> {
  const { companyId } = person;
  const { digits } = await companyOf(database, companyId);
  const { from, to, instrument } = query;
  return { span: { companyId, from, to, instrument }, digits };
}
