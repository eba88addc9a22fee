import type { Knex } from 'knex';
import { addMonths, formatDay, parseDay, type CalendarDay, type Entry } from '@coffer/core';
import type { ClosedWay, ConfirmCode, MonthClosed } from '@coffer/contract';
import { audit } from '../audit/audit.ts';
import { trailHead } from '../audit/trail.ts';
import { accruingFrom } from '../company/settings.ts';
import { Refusal } from '../http/refusal.ts';
import type { Maker } from '../instruments/instrument-store.ts';
import { keepReportedFunds } from '../funds/reported-funds.ts';
import { keepReported } from '../instruments/reported-positions.ts';
import { postEntries, type EntryToPost } from '../journal/post-entries.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { changedParts } from './close-digest.ts';
import { unclosedDifferences } from './differences.ts';
import { keepLeftOut } from './left-out-store.ts';
import { monthMade, type MonthMade } from './month-made.ts';
import { holdUnclosed, notHandedOver, refuseUnmeant, type Seen } from './hand-over.ts';
import { handedOver, takeStep } from './month-steps.ts';
import { approversOf, asksForTwo, refuseOwnWork } from './second-person.ts';
import { keepTold } from './told-at-close.ts';
import { unansweredOn } from './unanswered.ts';

/**
 * Locks a month by one person, where the company asks for no second: posts its entries, keeps what it reports, opens the
 * next month and posts the reversals there. Throws {@link Refusal} 409 where a second person is asked for, where it is
 * closed already or being closed at this moment, where it is not ready, or not as it was seen.
 */
export async function lockPeriod(
  database: Knex,
  figures: FigureThreads,
  by: Maker,
  endsOn: string,
  { digest, confirm }: { readonly digest?: string | undefined; readonly confirm: readonly ConfirmCode[] },
  today: CalendarDay,
): Promise<MonthClosed> {
  await takeTurn(database, by.companyId);
  const seenTo = await seenSoFar(database);
  const period = await holdUnclosed(database, by.companyId, endsOn);
  if (await asksForTwo(database, by.companyId)) {
    throw new Refusal(
      409,
      'second-person-needed',
      'This company asks for a second person: hand the month over, and somebody who had no hand in it approves it.',
    );
  }
  const made = await monthMade(database, figures, by.companyId, period, true);
  await refuseUnmeant(database, by.companyId, made, { digest, confirm }, today);
  return closeMonth(database, figures, by, made, { as: 'alone', confirm, seenTo, named: [] });
}

/**
 * Approves a month that somebody else handed over, as it was seen, and closes it in the same transaction. Throws
 * {@link Refusal} 403 for who had a hand in it, 409 where it was not handed over, or where anything has changed since,
 * naming what.
 */
export async function approveMonth(
  database: Knex,
  figures: FigureThreads,
  by: Maker,
  endsOn: string,
  { digest, confirm }: Seen,
  today: CalendarDay,
): Promise<MonthClosed> {
  await takeTurn(database, by.companyId);
  const seenTo = await seenSoFar(database);
  const period = await holdUnclosed(database, by.companyId, endsOn);
  const handed = await handedOver(database, by.companyId, endsOn);
  if (period.state !== 'prepared' || !handed) throw notHandedOver(endsOn);
  const approvers = await approversOf(database, by.companyId, endsOn);
  refuseOwnWork(approvers, by);
  const named = [...approvers.named(by), ...(await unansweredOn(database, by.companyId, endsOn))];
  const made = await monthMade(database, figures, by.companyId, period, true);
  if (made.digest !== handed.digest) {
    const changed = changedParts(handed.parts, made.parts).map(({ name, what }) => `${name} ${what}`);
    throw new Refusal(
      409,
      'changed-since',
      `Nothing was posted, because the month is no longer as it was handed over: ${changed.join('; ')}. It is handed over again first.`,
    );
  }
  await refuseUnmeant(database, by.companyId, made, { digest, confirm }, today, named);
  return closeMonth(database, figures, by, made, {
    as: 'reviewed',
    confirm,
    seenTo,
    named: named.map(({ message }) => message),
  });
}

/**
 * The last event of the audit trail, before anything else is looked at: what is told of after it was not there to be seen,
 * and is a hand in the month that follows.
 */
async function seenSoFar(database: Knex): Promise<number> {
  return (await trailHead(database))?.event ?? 0;
}

/** How a month is closed. */
interface Way {
  readonly as: ClosedWay;
  readonly confirm: readonly ConfirmCode[];
  readonly seenTo: number;
  /** What is named with it, in sentences. */
  readonly named: readonly string[];
}

/** Closes a month for good: whatever is wrong with that the database refuses as well. */
async function closeMonth(
  database: Knex,
  figures: FigureThreads,
  by: Maker,
  month: MonthMade,
  { as, confirm: confirmed, seenTo, named }: Way,
): Promise<MonthClosed> {
  const { period, work, funds, made, accounts, settled, notBooked } = month;
  const endsOn = period.ends_on;
  const reversals = made.flatMap((one) => entriesToPost(one, one.opening ? [one.opening] : []));
  const inPeriod = made.flatMap((one) => entriesToPost(one, one.inPeriod));
  const opens = formatDay(addMonths(parseDay(endsOn) as CalendarDay, 1, true));
  const differences = await unclosedDifferences(database, figures, by.companyId, endsOn, work);
  await postEntries(database, by, endsOn, accounts, inPeriod);
  const reported = work.filter(({ withdrawn }) => !withdrawn).map(({ row }) => row);
  await keepReported(database, by.companyId, endsOn, reported);
  const reportedOf = funds.filter(({ withdrawn }) => !withdrawn).map(({ fund }) => fund);
  await keepReportedFunds(database, by.companyId, endsOn, reportedOf);
  await keepLeftOut(database, by.companyId, endsOn, notBooked);
  await keepTold(database, by.companyId, endsOn, month, differences.lines);
  await takeStep(database, by, endsOn, 'closed', {
    seen: month,
    confirmed,
    ...(named.length > 0 && { comment: named.join(' ') }),
  });
  await database('period').where({ company_id: by.companyId, ends_on: endsOn }).update({
    state: 'closed',
    closed_at: database.fn.now(),
    closed_by: by.id,
    closed_as: as,
    seen_to: seenTo,
    settled,
    reversals: reversals.length,
  });
  await database('period').insert({
    company_id: by.companyId,
    ends_on: opens,
    state: 'open',
    accruals: (await accruingFrom(database, by.companyId, formatDay((parseDay(endsOn) as CalendarDay) + 1)))
      .accruals,
  });
  await postEntries(database, by, opens, accounts, reversals);
  const closed = { endsOn, entries: inPeriod.length, reversals: reversals.length, opens };
  await audit(database, by, 'period-locked', [
    { subject: endsOn, detail: { ...closed, as, digest: month.digest, ...(named.length > 0 && { named }) } },
  ]);
  const trail = await trailHead(database);
  if (!trail) throw new Error('The audit trail does not tell of the close.');
  return { ...closed, trail };
}

/** One close of a company at a time; whoever comes second is told, not queued. */
async function takeTurn(database: Knex, companyId: number): Promise<void> {
  const answer = await database.raw<{ rows: { taken: boolean }[] }>(
    `select pg_try_advisory_xact_lock(hashtext('period close'), ?) as taken`,
    [companyId],
  );
  if (!answer.rows[0]?.taken) {
    throw new Refusal(
      409,
      'being-locked',
      'Somebody is locking this period at this moment; look again in a minute.',
    );
  }
}

function entriesToPost(
  { id, version }: { readonly id: string; readonly version: number },
  entries: readonly Entry[],
): EntryToPost[] {
  return entries.map((entry) => ({ entry, instrumentId: id, version }));
}
