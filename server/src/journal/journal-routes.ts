import { Router, type Request, type Response } from 'express';
import type { Knex } from 'knex';
import * as v from 'valibot';
import { endpoints, faultsOf, journalQuery } from '@coffer/contract';
import { companyOf } from '../company/company-store.ts';
import { faultyInput } from '../http/refusal.ts';
import { authorized, serve } from '../http/route.ts';
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
  router.get('/api/journal.csv', async (request, response) => {
    const { span, digits } = await spanOf(database, request);
    nameFile(response, span, 'csv', 'text/csv; charset=utf-8');
    await writeJournalCsv(response, database, span, digits);
  });
  router.get('/api/journal.xlsx', async (request, response) => {
    const { span, digits } = await spanOf(database, request);
    nameFile(response, span, 'xlsx', 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet');
    await writeJournalWorkbook(response, database, span, digits);
  });
  return router;
}

function nameFile(response: Response, { from, to }: JournalSpan, ending: string, type: string): void {
  sendAsFile(response, `Journal ${from} to ${to}.${ending}`, type);
}

async function spanOf(database: Knex, request: Request): Promise<{ span: JournalSpan; digits: number }> {
  const { companyId } = authorized(request, 'logged-in');
  const read = v.safeParse(journalQuery, request.query);
  if (!read.success) throw faultyInput(faultsOf(read.issues));
  const { digits } = await companyOf(database, companyId);
  const { from, to, instrument } = read.output;
  return { span: { companyId, from, to, instrument }, digits };
}
