import type { Knex } from 'knex';
import { addMonths, formatAmount, formatDay, parseDay, type CalendarDay, type Entry } from '@coffer/core';
import type { ConfirmCode, Unworkable } from '@coffer/contract';
import { audit } from '../audit/audit.ts';
import { accountsOf } from '../accounts/accounts.ts';
import { broughtByInstrument, broughtIn, refuseUntied } from '../accounts/brought-in.ts';
import { missingAccounts, refuseMissing } from '../accounts/missing-accounts.ts';
import { accrualsFrom } from '../company/settings.ts';
import { companyOf } from '../company/company-store.ts';
import { askFirst, Refusal } from '../http/refusal.ts';
import type { Maker } from '../instruments/instrument-store.ts';
import { keepReportedFunds } from '../funds/reported-funds.ts';
import { keepReported } from '../instruments/reported-positions.ts';
import { postEntries, type EntryToPost } from '../journal/post-entries.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
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
  const { work, funds, settled, unworkable } = await monthWork(database, figures, by.companyId, period, true);
  refuseUnproven(
    [
      ...work.map(({ row, failing }) => ({ name: row.name, failing })),
      ...funds.map(({ fund, failing }) => ({ name: fund.name, failing })),
    ],
    unworkable,
  );
  const all = [
    ...work.map((done) => ({ ...done, of: done.row })),
    ...funds.map((done) => ({ ...done, of: done.fund })),
  ];
  const drafts = all.flatMap((done) => done.inPeriod);
  const rows = work.map(({ row }) => row);
  const held = funds.map(({ fund }) => fund);
  const { digits, booksFrom } = await companyOf(database, by.companyId);
  const accounts = await accountsOf(database, by.companyId);
  const toPost = all.map(({ of, inPeriod, opening }) => ({
    instrumentId: of.id,
    entries: opening ? [...inPeriod, opening] : inPeriod,
  }));
  refuseMissing(missingAccounts(accounts, toPost));
  const brought = await broughtByInstrument(database, by.companyId, booksFrom, accounts, toPost);
  refuseUntied(await broughtIn(database, by.companyId, brought), (minor) => formatAmount(minor, digits));
  refuseWhatDoesNotTie(await closeChecks(database, by.companyId, endsOn, rows, held, drafts), (minor) =>
    formatAmount(minor, digits),
  );
  const reversals = all.flatMap(({ of, opening }) => entriesToPost(of, opening ? [opening] : []));
  const inPeriod = all.flatMap((done) => entriesToPost(done.of, done.inPeriod));
  const opens = formatDay(addMonths(parseDay(endsOn) as CalendarDay, 1, true));
  await postEntries(database, by, endsOn, accounts, inPeriod);
  const reported = work.filter(({ withdrawn }) => !withdrawn).map(({ row }) => row);
  await keepReported(database, by.companyId, endsOn, reported);
  const reportedOf = funds.filter(({ withdrawn }) => !withdrawn).map(({ fund }) => fund);
  await keepReportedFunds(database, by.companyId, endsOn, reportedOf);
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
    accruals: await accrualsFrom(database, by.companyId, formatDay((parseDay(endsOn) as CalendarDay) + 1)),
  });
  await postEntries(database, by, opens, accounts, reversals);
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
function refuseUnproven(
  proven: readonly { readonly name: string; readonly failing?: string | undefined }[],
  unworkable: readonly Unworkable[],
): void {
  const failing = proven.flatMap(({ name, failing: proof }) =>
    proof === undefined ? [] : [`${name}: a proof fails, not so is "${proof}"`],
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

function entriesToPost(
  { id, version }: { readonly id: string; readonly version: number },
  entries: readonly Entry[],
): EntryToPost[] {
  return entries.map((entry) => ({ entry, instrumentId: id, version }));
}
