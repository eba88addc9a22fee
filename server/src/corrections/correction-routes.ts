import { Router } from 'express';
import type { Knex } from 'knex';
import { downloads, endpoints } from '@coffer/contract';
import { formatAmount, type MinorUnits } from '@coffer/core';
import { companyOf } from '../company/company-store.ts';
import { writeCsv } from '../http/csv.ts';
import { serve, serveFile } from '../http/route.ts';
import { sendAsFile } from '../http/send-file.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { catchUpsView } from './catch-ups.ts';
import { monthCorrected } from './month-corrected.ts';

const columns = ['bookedIn', 'entry', 'forMonth', 'instrument', 'version', 'reason', 'by'] as const;
const ofLines = ['accountCode', 'account', 'debit', 'credit'] as const;

/** What closed months should have held otherwise: of one of them, and of a fiscal year together. */
export function correctionRoutes(database: Knex, figures: FigureThreads): Router {
  const router = Router();
  serve(router, database, endpoints.catchUps, ({ query, person, database: on }) =>
    catchUpsView(on, figures, person.companyId, query),
  );
  serve(router, database, endpoints.monthCorrected, ({ params, person, database: on }) =>
    monthCorrected(on, figures, person.companyId, params.endsOn),
  );
  serveFile(router, downloads.catchUpsCsv, async ({ query, person, response }) => {
    const { digits } = await companyOf(database, person.companyId);
    const { catchUps } = await catchUpsView(database, figures, person.companyId, query);
    const money = (minor: MinorUnits): string => formatAmount(minor, digits);
    const rows = catchUps.flatMap(({ number, lines, ...each }) =>
      lines.map((line) => ({
        ...each,
        entry: number,
        accountCode: line.code,
        account: line.account,
        debit: money(line.debit),
        credit: money(line.credit),
      })),
    );
    sendAsFile(response, `Catch-ups ${query.from} to ${query.to}.csv`, downloads.catchUpsCsv.type);
    response.end(writeCsv([...columns, ...ofLines], rows));
  });
  return router;
}
