import { Router } from 'express';
import type { Knex } from 'knex';
import { endpoints, type EntryView } from '@coffer/contract';
import { accountsOf, companyOf } from '../company/company-store.ts';
import { logUnworkable, serve } from '../http/route.ts';
import { newestVersion } from '../instruments/instrument-store.ts';
import { knownInstrument } from '../instruments/known-instruments.ts';
import { draftView } from '../journal/entry-view.ts';
import { entriesOfInstrument } from '../journal/journal-store.ts';
import { closeView } from './close-view.ts';
import { lockPeriod } from './lock-period.ts';
import { instrumentWork, postedBalancesOf } from './month-work.ts';
import { chooseAccruals } from './choose-accruals.ts';
import { accrualChoicesOf, periodEnding } from './period-store.ts';

/** The period close: what it makes, and locking it. */
export function periodRoutes(database: Knex): Router {
  const router = Router();
  serve(router, database, endpoints.close, async ({ params, person, request, database: on }) => {
    const view = await closeView(on, person.companyId, params.endsOn);
    logUnworkable(request, view.unworkable);
    return view;
  });
  serve(router, database, endpoints.instrumentEntries, async ({ params, person, database: on }) => ({
    entries: await monthEntries(on, person.companyId, params.endsOn, params.id),
  }));
  serve(router, database, endpoints.chooseAccruals, ({ params, body, person, database: on }) =>
    chooseAccruals(on, person, params.endsOn, body.accruals),
  );
  serve(router, database, endpoints.lock, ({ params, person, database: on }) =>
    lockPeriod(on, person, params.endsOn),
  );
  return router;
}

async function monthEntries(
  database: Knex,
  companyId: number,
  endsOn: string,
  id: string,
): Promise<EntryView[]> {
  const period = await periodEnding(database, companyId, endsOn);
  const version = await newestVersion(database, companyId, id);
  if (period.state === 'closed') return entriesOfInstrument(database, companyId, endsOn, id);
  const accounts = await accountsOf(database, companyId);
  const { booksFrom } = await companyOf(database, companyId);
  const posted = await postedBalancesOf(database, companyId, id);
  const standing = await entriesOfInstrument(database, companyId, endsOn, id);
  const choices = await accrualChoicesOf(database, companyId, period);
  const work = instrumentWork(knownInstrument(version), endsOn, booksFrom, posted, choices);
  if (!work) return standing;
  const { instrument } = work;
  const drafts = work.inPeriod.map((entry) =>
    draftView(accounts, entry, instrument.id, instrument.document.name),
  );
  return [...standing, ...drafts];
}
