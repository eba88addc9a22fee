import type { Knex } from 'knex';
import { calendarFields, parseDay, portfolioPeriods, type CalendarDay } from '@coffer/core';
import {
  indexKey,
  type ConfirmCode,
  type FollowView,
  type Published,
  type RatesView,
} from '@coffer/contract';
import { audit } from '../audit/audit.ts';
import { companyOf } from '../company/company-store.ts';
import { faultyInput } from '../http/refusal.ts';
import { saveVersions, type Saved } from '../instruments/change-instrument.ts';
import { changesAsSeen } from '../instruments/changes-as-seen.ts';
import { newestVersionsOf, type Maker } from '../instruments/instrument-store.ts';
import { closedMonths, openPeriod } from '../periods/period-store.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import type { FollowingInstrument } from './followed-instrument.ts';
import { followersOf, idsFollowing, indexesOf, keepFixings, type NewFixings } from './rate-store.ts';

type SentFixings = Pick<NewFixings, 'index' | 'fixings'>;

/** The reference rates of a company, and the names that instruments follow without one. */
export async function ratesOf(database: Knex, companyId: number): Promise<RatesView> {
  const indexes = await indexesOf(database, companyId);
  const followers = await followersOf(database, companyId);
  const known = new Set(indexes.map(({ key }) => key));
  return {
    indexes: indexes.map(({ key, ...index }) => ({
      ...index,
      followers: followers.get(key)?.followers ?? 0,
    })),
    unkept: [...followers].filter(([key]) => !known.has(key)).map(([, unkept]) => unkept),
  };
}

/** What new fixings do to an index and to each instrument that follows it. */
interface LookedAt {
  readonly view: FollowView;
  readonly following: readonly FollowingInstrument[];
}

/** Works out what new fixings of an index do; keeps nothing. Throws {@link Refusal} 422 where a day comes twice. */
export async function lookAtFixings(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  { index, fixings }: SentFixings,
): Promise<LookedAt> {
  refuseTwice(fixings);
  const key = indexKey(index);
  const kept = (await indexesOf(database, companyId)).find((each) => each.key === key);
  const before: Published[] = (kept?.fixings ?? []).map(({ on, rate }) => ({ on, rate }));
  const stood = new Map(before.map(({ on, rate }) => [on, rate]));
  const stands = new Map(stood);
  for (const { on, rate } of fixings) {
    if (rate === null) stands.delete(on);
    else stands.set(on, rate);
  }
  const ids = await idsFollowing(database, companyId, key);
  const versions = await newestVersionsOf(database, companyId, ids);
  const closed = await closedMonths(database, companyId);
  const open = await openPeriod(database, companyId);
  const monthEnd = open ? (parseDay(open.ends_on) as CalendarDay) : closed.to;
  const { fiscalYearEndMonth } = await companyOf(database, companyId);
  const asked = {
    before,
    after: [...stands].map(([on, rate]) => ({ on, rate })),
    closed,
    monthEnd,
    yearEnd: fiscalYearEnd(monthEnd, fiscalYearEndMonth),
  };
  const made = await figures.each(
    'followed',
    asked,
    versions.map((version) => ({ version })),
  );
  const following = made.filter((each) => each !== undefined);
  following.sort((a, b) => a.view.name.localeCompare(b.view.name));
  const view: FollowView = {
    revision: kept?.revision ?? 0,
    fixings: fixings.map(({ on, rate }) => ({ on, rate, was: stood.get(on) ?? null })),
    month: open?.ends_on ?? null,
    instruments: following.map((each) => each.view),
  };
  return { view, following };
}

function fiscalYearEnd(day: CalendarDay, yearEndMonth: number): CalendarDay {
  const { year } = calendarFields(day);
  const through = parseDay(`${year + 1}-12-31`) as CalendarDay;
  return portfolioPeriods('year', day, through, yearEndMonth)[0]?.to ?? day;
}

function refuseTwice(fixings: SentFixings['fixings']): void {
  const first = new Map<string, number>();
  const faults = fixings.flatMap(({ on }, at) => {
    const before = first.get(on);
    if (before === undefined) first.set(on, at);
    return before === undefined
      ? []
      : [{ key: `fixings.${at}.on`, message: `Fixing ${before + 1} is for ${on} too; leave one.` }];
  });
  if (faults.length > 0) throw faultyInput(faults);
}

/**
 * Keeps new fixings of an index, and gives the instruments named the next version that takes them, with one reason, all
 * or none, in a transaction. Throws {@link Refusal} 409 where the index or an instrument was changed since it was looked
 * at or where something is to be confirmed first, and 422 with what is wrong with an instrument.
 */
export async function followRates(
  database: Knex,
  figures: FigureThreads,
  by: Maker,
  sent: NewFixings & {
    readonly instruments: readonly { readonly id: string; readonly version: number }[];
    readonly confirm: readonly ConfirmCode[];
  },
): Promise<{ saved: Saved[] }> {
  const { following, view } = await lookAtFixings(database, figures, by.companyId, sent);
  if (sent.fixings.length + sent.instruments.length === 0) {
    throw faultyInput([
      { key: 'fixings', message: 'Give a fixing, or an instrument that takes what is kept.' },
    ]);
  }
  const changes = changesAsSeen(following, sent);
  await keepFixings(database, by, sent);
  const detail = {
    index: sent.index,
    source: sent.source,
    reason: sent.reason,
    fixings: view.fixings,
    instruments: changes.length,
  };
  // Whoever writes into the trail holds it to the end: that comes last.
  await saveVersions(database, by, changes);
  await audit(database, by, 'fixings-kept', [{ subject: sent.index, detail }]);
  return { saved: changes.map(({ id, from }) => ({ id, version: from + 1 })) };
}
