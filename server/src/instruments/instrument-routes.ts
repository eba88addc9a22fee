import { Router } from 'express';
import type { Knex } from 'knex';
import { endpoints } from '@coffer/contract';
import { serve } from '../http/route.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { changeInstrument, createInstrument, withdraw } from './change-instrument.ts';
import { TakingOn } from './take-on-many.ts';
import { newestVersionsOf } from './instrument-store.ts';
import { documentOf } from './known-instruments.ts';
import { instrumentView } from './instrument-view.ts';

/** Taking on, reading and changing instruments. */
export function instrumentRoutes(database: Knex, figures: FigureThreads): Router {
  const router = Router();
  serve(router, database, endpoints.createInstrument, ({ body, person, database: on }) =>
    createInstrument(on, figures, person, body),
  );
  const takingOn = new TakingOn();
  serve(router, database, endpoints.takeOnMany, ({ body, person, request, database: on }) =>
    takingOn.all(on, figures, person, body, {
      key: request.get('idempotency-key') ?? '',
      gone: () => request.res?.destroyed ?? false,
    }),
  );
  serve(router, database, endpoints.takenOnSoFar, ({ params, person }) =>
    Promise.resolve(takingOn.soFar(person.id, params.key)),
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
