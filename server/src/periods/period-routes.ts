import { Router } from 'express';
import type { Knex } from 'knex';
import { endpoints, type EntryView } from '@coffer/contract';
import type { Clock } from '../clock.ts';
import { accountsOf } from '../accounts/accounts.ts';
import { logUnworkable, serve } from '../http/route.ts';
import { newestVersion } from '../instruments/instrument-store.ts';
import { draftView } from '../journal/entry-view.ts';
import { entriesOfInstrument } from '../journal/journal-store.ts';
import { closeView } from './close-view.ts';
import { differencesView } from './differences.ts';
import { approveMonth, lockPeriod } from './close-month.ts';
import { commentOn, handOver, returnMonth } from './hand-over.ts';
import { monthEntriesOf } from './month-work.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { chooseAccruals } from './choose-accruals.ts';
import { periodEnding } from './period-store.ts';

/** The period close: what it makes, and locking it. */
export function periodRoutes(database: Knex, figures: FigureThreads, today: Clock): Router {
  const router = Router();
  serve(router, database, endpoints.close, async ({ params, person, request, database: on }) => {
    const view = await closeView(on, figures, person, params.endsOn);
    logUnworkable(request, view.unworkable);
    return view;
  });
  serve(router, database, endpoints.differences, ({ params, person, database: on }) =>
    differencesView(on, figures, person.companyId, params.endsOn),
  );
  serve(router, database, endpoints.instrumentEntries, async ({ params, person, database: on }) => ({
    entries: await monthEntries(on, figures, person.companyId, params.endsOn, params.id),
  }));
  serve(router, database, endpoints.chooseAccruals, ({ params, body, person, database: on }) =>
    chooseAccruals(on, person, params.endsOn, body.accruals),
  );
  serve(router, database, endpoints.lock, ({ params, body, person, database: on }) =>
    lockPeriod(on, figures, person, params.endsOn, body, today()),
  );
  serve(router, database, endpoints.handOver, ({ params, body, person, database: on }) =>
    handOver(on, figures, person, params.endsOn, body, today()),
  );
  serve(router, database, endpoints.returnMonth, ({ params, body, person, database: on }) =>
    returnMonth(on, person, params.endsOn, body.comment, body.instrumentId),
  );
  serve(router, database, endpoints.approve, ({ params, body, person, database: on }) =>
    approveMonth(on, figures, person, params.endsOn, body, today()),
  );
  serve(router, database, endpoints.commentMonth, ({ params, body, person, database: on }) =>
    commentOn(on, person, params.endsOn, body.text, body.instrumentId),
  );
  return router;
}

async function monthEntries(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  endsOn: string,
  id: string,
): Promise<EntryView[]> {
  const period = await periodEnding(database, companyId, endsOn);
  await newestVersion(database, companyId, id);
  const standing = await entriesOfInstrument(database, companyId, endsOn, id);
  if (period.state === 'closed') return standing;
  const work = await monthEntriesOf(database, figures, companyId, period, id);
  if (!work) return standing;
  const accounts = await accountsOf(database, companyId);
  return [...standing, ...work.inPeriod.map((entry) => draftView(accounts, entry, work.of))];
}
