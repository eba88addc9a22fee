import type { Knex } from 'knex';
import { addMonths, formatAmount, formatDay, parseDay, type CalendarDay, type Entry } from '@coffer/core';
import type { ConfirmCode, Unworkable } from '@coffer/contract';
import { audit } from '../audit/audit.ts';
import { companyOf } from '../company/company-store.ts';
import { askFirst, Refusal } from '../http/refusal.ts';
import type { Maker } from '../instruments/instrument-store.ts';
import { keepReported } from '../instruments/reported-positions.ts';
import { postEntries, type EntryToPost } from '../journal/post-entries.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import type { MonthOfInstrument } from './month-of-instrument.ts';
import { closeChecks, refuseWhatDoesNotTie } from './close-checks.ts';
import { monthWork } from './month-work.ts';
import { holdPeriod } from './period-store.ts';

/** What locking a month did. */
export interface Locked {
  readonly endsOn: string;
  readonly entries: number;
  readonly reversals: number;
  /** Last day of the month that is open now. */
  readonly opens: string;
}

/**
 * Closes a company's open month for good, in one transaction: posts its entries, keeps what it reports, opens
 * the next month and posts the reversals there. Throws {@link Refusal} 409 when the month is closed already, or
 * when somebody is closing it at this moment.
 */
export async function lockPeriod(
  database: Knex,
  figures: FigureThreads,
  by: Maker,
  endsOn: string,
): Promise<Locked> {
  await takeTurn(database, by.companyId);
  const period = await holdPeriod(database, by.companyId, endsOn);
  if (period.state === 'closed') {
    throw new Refusal(
      409,
      'already-locked',
      `The period to ${endsOn} is locked already and stays as it is. Corrections fall in the open period.`,
    );
  }
  const { work, settled, unworkable } = await monthWork(database, figures, by.companyId, period, true);
  refuseUnproven(work, unworkable);
  const drafts = work.flatMap((done) => done.inPeriod);
  const rows = work.map(({ row }) => row);
  const { digits } = await companyOf(database, by.companyId);
  refuseWhatDoesNotTie(await closeChecks(database, by.companyId, endsOn, rows, drafts), (minor) =>
    formatAmount(minor, digits),
  );
  const reversals = work.flatMap((done) => entriesToPost(done, done.opening ? [done.opening] : []));
  const inPeriod = work.flatMap((done) => entriesToPost(done, done.inPeriod));
  const opens = formatDay(addMonths(parseDay(endsOn) as CalendarDay, 1, true));
  await postEntries(database, by, endsOn, inPeriod);
  const reported = work.filter(({ withdrawn }) => !withdrawn).map(({ row }) => row);
  await keepReported(database, by.companyId, endsOn, reported);
  await database('period').where({ company_id: by.companyId, ends_on: endsOn }).update({
    state: 'closed',
    closed_at: database.fn.now(),
    closed_by: by.id,
    settled,
    reversals: reversals.length,
  });
  await database('period').insert({
    company_id: by.companyId,
    ends_on: opens,
    state: 'open',
    accruals: period.accruals,
  });
  await postEntries(database, by, opens, reversals);
  const locked = { endsOn, entries: inPeriod.length, reversals: reversals.length, opens };
  await audit(database, by, 'period-locked', [{ subject: endsOn, detail: locked }]);
  return locked;
}

/** A month that has not ended is locked only where that is meant. Throws {@link Refusal} 409. */
export function askAboutUnended(endsOn: string, today: CalendarDay, confirm: readonly ConfirmCode[]): void {
  if ((parseDay(endsOn) as CalendarDay) < today) return;
  const message =
    `The month to ${endsOn} has not ended: today is ${formatDay(today)}. ` +
    'What happens in it after it is locked falls in the next month, as a correction.';
  askFirst([{ code: 'month-not-ended', key: '', message }], confirm);
}

/** No month is locked with an instrument that cannot be worked out, or whose schedule does not prove. */
function refuseUnproven(work: readonly MonthOfInstrument[], unworkable: readonly Unworkable[]): void {
  const failing = work.flatMap(({ row, failing: proof }) =>
    proof === undefined ? [] : [`${row.name}: a proof fails, not so is "${proof}"`],
  );
  const why = [...unworkable.map(({ name, message }) => `${name}: ${message}`), ...failing];
  if (why.length === 0) return;
  throw new Refusal(
    409,
    'not-proven',
    `Nothing was locked. Correct the terms of what cannot be worked out or proven first: ${why.join('; ')}.`,
  );
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

function entriesToPost({ row }: MonthOfInstrument, entries: readonly Entry[]): EntryToPost[] {
  return entries.map((entry) => ({ entry, instrumentId: row.id, version: row.version }));
}
