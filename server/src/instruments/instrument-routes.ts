import { Router } from 'express';
import type { Knex } from 'knex';
import { endpoints } from '@coffer/contract';
import { serve } from '../http/route.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { changeInstrument, createInstrument, withdraw } from './change-instrument.ts';
import { newestVersionsOf } from './instrument-store.ts';
import { documentOf } from './known-instruments.ts';
import { instrumentView } from './instrument-view.ts';

/** Taking on, reading and changing instruments. */
export function instrumentRoutes(database: Knex, figures: FigureThreads): Router {
  const router = Router();
  serve(router, database, endpoints.createInstrument, ({ body, person, database: on }) =>
    createInstrument(on, figures, person, body),
  );
  serve(router, database, endpoints.documents, async ({ body, person, database: on }) => {
    const ids = [...new Set(body.ids)];
    const instruments = await newestVersionsOf(on, person.companyId, ids);
    return {
      instruments: instruments.map((stored) => ({
        id: stored.id,
        version: stored.version,
        document: documentOf(stored),
      })),
    };
  });
  serve(router, database, endpoints.instrument, ({ params, query, person, database: on }) =>
    instrumentView(on, person.companyId, params.id, query.version),
  );
  serve(router, database, endpoints.changeInstrument, ({ params, body, person, database: on }) =>
    changeInstrument(on, figures, person, params.id, body),
  );
  serve(router, database, endpoints.withdrawInstrument, ({ params, body, person, database: on }) =>
    withdraw(on, person, params.id, body),
  );
  return router;
}
