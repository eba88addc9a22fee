import type { Knex } from 'knex';
import { addMonths, formatDay, monthEnd, parseDay, type CalendarDay } from '@coffer/core';
import type { ChangeFaults, ScenarioChange, SideBySideView, Unworkable } from '@coffer/contract';
import { newestVersions, newestVersionsOf } from '../instruments/instrument-store.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { outlookOfAll } from './outlook-view.ts';
import type { Coming, Outlooks } from './outlooks-of-instrument.ts';

/** Above this many instruments what is owed is told each quarter instead of each month. */
const mostByMonth = 1000;

/**
 * What is to come of all instruments, as they are and under each of some scenarios. Throws {@link Refusal} 404 where one
 * changes an instrument that is not there.
 */
export async function sideBySide(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  { on, scenarios }: { readonly on: string; readonly scenarios: readonly (readonly ScenarioChange[])[] },
): Promise<SideBySideView> {
  const day = parseDay(on) as CalendarDay;
  const named = new Set(scenarios.flat().map(({ instrumentId }) => instrumentId));
  await newestVersionsOf(database, companyId, [...named]);
  const versions = await newestVersions(database, companyId);
  const everyMonths = versions.length > mostByMonth ? 3 : 1;
  const byId = scenarios.map((changes) => new Map(changes.map((change) => [change.instrumentId, change])));
  const items = versions.map((version) => ({
    version,
    changes: byId.map((changes) => changes.get(version.id)),
  }));
  const known: { id: string; outlooks: Outlooks }[] = [];
  const unworkable: Unworkable[] = [];
  for (const [at, worked] of (await figures.each('outlooks', { on: day, everyMonths }, items)).entries()) {
    if ('unworkable' in worked) unworkable.push(worked.unworkable);
    else known.push({ id: items[at]?.version.id ?? '', outlooks: worked.made });
  }
  const columns = [undefined, ...scenarios.keys()].map((scenario) => columnOf(known, scenario, on));
  const most = Math.max(1, ...columns.map(({ owed }) => owed.length));
  const changed = known.filter(({ outlooks }) => outlooks.under.some((each) => each !== undefined));
  return {
    days: Array.from({ length: most }, (_, at) =>
      formatDay(addMonths(day, at * everyMonths, day === monthEnd(day))),
    ),
    columns: columns.map((column) => ({
      ...column,
      owed: Array.from({ length: most }, (_, at) => column.owed[at] ?? column.owed.at(-1) ?? 0),
    })),
    rows: changed.map(({ id, outlooks: { name, asItIs, under } }) => ({
      id,
      name,
      columns: [asItIs.outlook, ...under.map((each) => (each && 'outlook' in each ? each.outlook : null))],
    })),
    others: known.length - changed.length,
    unworkable,
  };
}

/** All instruments together under a scenario, or as they are; one whose change cannot be stays as it is. */
function columnOf(
  known: readonly { readonly outlooks: Outlooks }[],
  scenario: number | undefined,
  on: string,
): { all: SideBySideView['columns'][number]['all']; owed: number[]; faulty: ChangeFaults[] } {
  const faulty: ChangeFaults[] = [];
  const comings = known.map(({ outlooks }): Coming => {
    const under = scenario === undefined ? undefined : outlooks.under[scenario];
    if (under && 'faults' in under) faulty.push(under);
    return under && 'outlook' in under ? under : outlooks.asItIs;
  });
  const most = Math.max(1, ...comings.map(({ owed }) => owed.length));
  const owed = new Array<number>(most).fill(0);
  for (const coming of comings) {
    const left = coming.owed.at(-1) ?? 0;
    for (let at = 0; at < most; at += 1) owed[at] = (owed[at] as number) + (coming.owed[at] ?? left);
  }
  return {
    all: outlookOfAll(
      comings.map(({ outlook }) => outlook),
      on,
    ),
    owed,
    faulty,
  };
}
