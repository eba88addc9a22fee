import type { Knex } from 'knex';
import type * as v from 'valibot';
import { formatDay, parseDay, portfolioPeriods, type CalendarDay, type PortfolioPeriod } from '@coffer/core';
import type {
  ChangeFaults,
  endpoints,
  PortfolioQuery,
  PortfolioRow,
  PortfolioView,
  TriedPortfolioView,
  TriedRow,
  Unworkable,
} from '@coffer/contract';
import { companyOf } from '../company/company-store.ts';
import { faultyInput } from '../http/refusal.ts';
import { newestVersions, newestVersionsOf } from '../instruments/instrument-store.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';

/** Periods worked out at once: ten years of months; the dearest measure of the dearest instrument keeps a thread a second. */
const mostAtOnce = 120;

/** The periods that are asked for. Throws {@link Refusal} 422 for none, or for too many. */
function periodsOf({ from, to, by }: PortfolioQuery, fiscalYearEndMonth: number): PortfolioPeriod[] {
  const [first, last] = [parseDay(from) as CalendarDay, parseDay(to) as CalendarDay];
  const periods = portfolioPeriods(by, first, last, fiscalYearEndMonth);
  if (periods.length > 0 && periods.length <= mostAtOnce) return periods;
  const message = `From ${from} to ${to} are ${periods.length} periods; ask for 1 to ${mostAtOnce}.`;
  throw faultyInput([{ key: 'to', message }]);
}

/** Works out every instrument over the periods. Throws {@link Refusal} 422. */
export async function portfolioOver(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  query: PortfolioQuery,
): Promise<{ view: PortfolioView; digits: number }> {
  const { fiscalYearEndMonth, digits } = await companyOf(database, companyId);
  const periods = periodsOf(query, fiscalYearEndMonth);
  const items = (await newestVersions(database, companyId)).map((version) => ({ version }));
  const rows: PortfolioRow[] = [];
  const unworkable: Unworkable[] = [];
  for (const worked of await figures.each('portfolio', { periods, show: query.show }, items)) {
    if ('unworkable' in worked) unworkable.push(worked.unworkable);
    else if (worked.made) rows.push(worked.made);
  }
  const named = periods.map((period) => ({ from: formatDay(period.from), to: formatDay(period.to) }));
  return { view: { periods: named, rows, unworkable }, digits };
}

/** Works out what a scenario changes, over the periods. Throws {@link Refusal} 422, and 404 for other instruments. */
export async function triedPortfolio(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  { asked, on, changes }: Pick<v.InferOutput<typeof endpoints.tryPortfolio.body>, 'asked' | 'on' | 'changes'>,
): Promise<TriedPortfolioView> {
  const { fiscalYearEndMonth } = await companyOf(database, companyId);
  const periods = periodsOf(asked, fiscalYearEndMonth);
  const ids = changes.map(({ instrumentId }) => instrumentId);
  const versions = new Map(
    (await newestVersionsOf(database, companyId, ids)).map((version) => [version.id, version]),
  );
  const items = changes.flatMap((change) => {
    const version = versions.get(change.instrumentId);
    return version ? [{ version, change }] : [];
  });
  const question = { periods, show: asked.show, on: parseDay(on) as CalendarDay };
  const rows: TriedRow[] = [];
  const faulty: ChangeFaults[] = [];
  for (const tried of await figures.each('tried-portfolio', question, items)) {
    if ('faults' in tried) faulty.push(tried);
    else rows.push(tried);
  }
  return { rows, faulty };
}
