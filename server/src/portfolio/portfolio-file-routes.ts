import { Buffer } from 'node:buffer';
import { PassThrough } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { Router } from 'express';
import type { Knex } from 'knex';
import {
  downloads,
  endpoints,
  withTried,
  type ChangeFaults,
  type PortfolioQuery,
  type PortfolioView,
} from '@coffer/contract';
import { companyOf } from '../company/company-store.ts';
import { habitsOf } from '../company/settings.ts';
import { Refusal } from '../http/refusal.ts';
import { serve, serveFile, type Person } from '../http/route.ts';
import { sendAsFile } from '../http/send-file.ts';
import { asksForTwo } from '../periods/second-person.ts';
import type { FileThread } from '../workers/file-thread.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { portfolioCsv, writePortfolioWorkbook } from './portfolio-files.ts';
import { portfolioOver, triedPortfolio } from './portfolio-over.ts';
import type { PortfolioPaperContext } from './portfolio-paper.ts';

const nameOf = ({ show, from, to }: PortfolioQuery): string => `Portfolio ${show} ${from} to ${to}`;

/** The portfolio as files: terms as they are by plain links, under a scenario by what it changes. */
export function portfolioFileRoutes(database: Knex, figures: FigureThreads, files: FileThread): Router {
  const router = Router();
  serveFile(router, downloads.portfolioCsv, async ({ query, person, response }) => {
    const { view, digits } = await portfolioOver(database, figures, person.companyId, query);
    sendAsFile(response, `${nameOf(query)}.csv`, 'text/csv; charset=utf-8');
    response.end(portfolioCsv(view, digits));
  });
  serveFile(router, downloads.portfolioWorkbook, async ({ query, person, response }) => {
    const { view, digits } = await portfolioOver(database, figures, person.companyId, query);
    sendAsFile(response, `${nameOf(query)}.xlsx`, downloads.portfolioWorkbook.type);
    await writePortfolioWorkbook(response, view, digits);
  });
  serveFile(router, downloads.portfolioPaper, async ({ query, person, response }) => {
    const { view } = await portfolioOver(database, figures, person.companyId, query);
    const paper = await paperOf(database, files, person, view, { asked: query });
    sendAsFile(response, `${nameOf(query)}.pdf`, downloads.portfolioPaper.type);
    response.end(paper);
  });
  serve(router, database, endpoints.triedPortfolioFile, async ({ body, person, database: on }) => {
    const { asked, scenario, as } = body;
    const { rows, faulty } = await triedPortfolio(on, figures, person.companyId, body);
    if (faulty.length > 0) throw unfit(faulty);
    const { view: asItIs, digits } = await portfolioOver(on, figures, person.companyId, asked);
    const view = withTried(asItIs, new Map(rows.map((row) => [row.id, row])));
    const name = `${nameOf(asked)}, scenario ${scenario}.${as}`;
    const { portfolioCsv: csv, portfolioWorkbook: book, portfolioPaper: paper } = downloads;
    switch (as) {
      case 'csv':
        return {
          name,
          type: `${csv.type}; charset=utf-8`,
          bytes: Buffer.from(portfolioCsv(view, digits, scenario)),
        };
      case 'xlsx': {
        const stream = new PassThrough();
        const writing = writePortfolioWorkbook(stream, view, digits, scenario);
        const [bytes] = await Promise.all([buffer(stream), writing]);
        return { name, type: book.type, bytes };
      }
      case 'pdf': {
        const bytes = await paperOf(on, files, person, view, { asked, scenario });
        return { name, type: paper.type, bytes };
      }
    }
  });
  return router;
}

/** That a scenario does not fit the instruments as they are now. */
function unfit(faulty: readonly ChangeFaults[]): Refusal {
  const named = faulty.map(
    ({ name, faults }) => `${name}: ${faults.map(({ message }) => message).join(' ')}`,
  );
  return new Refusal(
    422,
    'does-not-fit',
    `The scenario is taken out once all of it can be worked out. ${named.join(' ')}`,
  );
}

/** The portfolio on paper. Throws {@link Refusal} 422 where it is too much for one. */
async function paperOf(
  database: Knex,
  files: FileThread,
  person: Person,
  view: PortfolioView,
  of: Pick<PortfolioPaperContext, 'asked' | 'scenario'>,
): Promise<Uint8Array> {
  if (view.rows.length > mostOnPaper) {
    const message = `There are ${view.rows.length} instruments; a paper holds ${mostOnPaper}. Take out the workbook.`;
    throw new Refusal(422, 'too-much', message);
  }
  const { name: company, currency, digits } = await companyOf(database, person.companyId);
  const madeAt = `${new Date().toISOString().slice(0, 16).replace('T', ' ')} UTC`;
  const { habits } = await habitsOf(database, person.companyId);
  const alone = !(await asksForTwo(database, person.companyId));
  const context = { company, currency, digits, habits, alone, ...of, madeBy: person.name, madeAt };
  return files.make({ file: 'portfolio-paper', view, context });
}

/** Instruments that a paper holds; more are no paper that anybody reads. */
const mostOnPaper = 1000;
