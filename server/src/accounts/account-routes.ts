import { Router } from 'express';
import type { Knex } from 'knex';
import { endpoints, type BroughtBy } from '@coffer/contract';
import { companyOf } from '../company/company-store.ts';
import { serve } from '../http/route.ts';
import { monthWork } from '../periods/month-work.ts';
import { openPeriod } from '../periods/period-store.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { accountsOf } from './accounts.ts';
import { broughtByInstrument, broughtIn, type BroughtByInstrument } from './brought-in.ts';
import { chartOf, keepChart, keepLedger, keepOwnAccounts } from './chart.ts';

/** The chart of accounts, what was brought in, and what instruments have of their own. */
export function chartRoutes(database: Knex, figures: FigureThreads): Router {
  const router = Router();
  serve(router, database, endpoints.accounts, async ({ person: { companyId }, database: on }) => ({
    ...(await chartOf(on, companyId)),
    broughtIn: await broughtIn(on, companyId, await broughtNow(on, figures, companyId)),
  }));
  serve(router, database, endpoints.broughtInto, async ({ query, person: { companyId }, database: on }) => ({
    instruments: await bringersOf(on, companyId, (await broughtNow(on, figures, companyId)).get(query.code)),
  }));
  serve(router, database, endpoints.keepLedger, async ({ body, person, database: on }) => {
    await keepLedger(on, person, body.balances);
    return {};
  });
  serve(router, database, endpoints.keepAccounts, ({ body, person, database: on }) =>
    keepChart(on, person, body),
  );
  serve(router, database, endpoints.keepOwnAccounts, async ({ params, body, person, database: on }) => {
    await keepOwnAccounts(on, person, params.id, body, await accountsOf(on, person.companyId));
    return {};
  });
  return router;
}

/** What instruments bring in; of the first month while it is open it is worked out. */
async function broughtNow(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
): Promise<BroughtByInstrument> {
  const { booksFrom } = await companyOf(database, companyId);
  const accounts = await accountsOf(database, companyId);
  const period = await openPeriod(database, companyId);
  if (period?.ends_on.slice(0, 7) !== booksFrom.slice(0, 7)) {
    return broughtByInstrument(database, companyId, booksFrom, accounts, []);
  }
  const { work, funds } = await monthWork(database, figures, companyId, period, false);
  return broughtByInstrument(database, companyId, booksFrom, accounts, [
    ...work.map(({ row, inPeriod }) => ({ instrumentId: row.id, entries: inPeriod })),
    ...funds.map(({ fund, inPeriod }) => ({ instrumentId: fund.id, entries: inPeriod })),
  ]);
}

/** The instruments that bring something into an account, the largest first. */
async function bringersOf(
  database: Knex,
  companyId: number,
  brought: ReadonlyMap<string, number> | undefined,
): Promise<BroughtBy[]> {
  const amounts = [...(brought ?? [])].filter(([, amount]) => amount !== 0);
  const named = await database('instrument').where({ company_id: companyId }).select('id', 'name');
  const names = new Map(named.map(({ id, name }) => [id, name]));
  return amounts
    .map(([instrumentId, amount]) => ({ instrumentId, name: names.get(instrumentId) ?? '', amount }))
    .sort(
      (one, other) => Math.abs(other.amount) - Math.abs(one.amount) || one.name.localeCompare(other.name),
    );
}
