import type { Knex } from 'knex';
import { parseDay, type CalendarDay } from '@coffer/core';
import { closedDay, type ClosedDaysView, type CompanyClosedDays, type ConfirmCode } from '@coffer/contract';
import * as v from 'valibot';
import { writtenSettingsOn } from '../company/settings.ts';
import { saveVersions, type Saved } from '../instruments/change-instrument.ts';
import { changesAsSeen } from '../instruments/changes-as-seen.ts';
import { newestVersions, type Maker } from '../instruments/instrument-store.ts';
import { closedMonths, openPeriod } from '../periods/period-store.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import type { ClosedDaysTaken } from './closed-days-taken.ts';

/** The instruments that lack closed days of their company, those first that had some before; nothing is kept. */
export async function lookAtClosedDays(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
): Promise<{ readonly view: ClosedDaysView; readonly taken: readonly ClosedDaysTaken[] }> {
  const open = await openPeriod(database, companyId);
  const month = open?.ends_on ?? null;
  const days = await closedDaysOf(database, companyId);
  if (days.ever.length === 0) return { view: { month, instruments: [] }, taken: [] };
  const closed = await closedMonths(database, companyId);
  const monthEnd = month === null ? closed.to : (parseDay(month) as CalendarDay);
  const versions = await newestVersions(database, companyId);
  const made = await figures.each(
    'closed-days',
    { days, closed, monthEnd },
    versions.map((version) => ({ version })),
  );
  const taken = made.filter((each) => each !== undefined);
  taken.sort(
    ({ view: a }, { view: b }) => Number(b.follows) - Number(a.follows) || a.name.localeCompare(b.name),
  );
  return { view: { month, instruments: taken.map(({ view }) => view) }, taken };
}

/** Every list of closed days that the company kept, and the last of them. */
async function closedDaysOf(database: Knex, companyId: number): Promise<CompanyClosedDays> {
  const { closedDays } = await writtenSettingsOn(database, companyId, 'infinity');
  const kept = await database('setting')
    .where({ company_id: companyId, key: 'closedDays' })
    .select<{ was: unknown; value: unknown }[]>('was', 'value');
  const lists = kept.flatMap(({ was, value }) =>
    [was, value].map((list) => v.parse(v.array(closedDay), list)),
  );
  const now = closedDays.map(({ on }) => on);
  return { now, ever: [...new Set([...lists.flat().map(({ on }) => on), ...now])] };
}

/**
 * Gives the instruments named a next version that has the closed days of their company, with one reason, all or none, in a
 * transaction. Throws {@link Refusal} 409 where one was changed since it was looked at or something is to be confirmed first,
 * and 422 with what is wrong with an instrument.
 */
export async function takeCompanysClosedDays(
  database: Knex,
  figures: FigureThreads,
  by: Maker,
  sent: {
    readonly instruments: readonly { readonly id: string; readonly version: number }[];
    readonly reason: string;
    readonly confirm: readonly ConfirmCode[];
  },
): Promise<{ saved: Saved[] }> {
  const { taken } = await lookAtClosedDays(database, figures, by.companyId);
  const changes = changesAsSeen(taken, sent);
  await saveVersions(database, by, changes);
  return { saved: changes.map(({ id, from }) => ({ id, version: from + 1 })) };
}
