import type { Knex } from 'knex';
import { parseDay, yearsApart, type CalendarDay } from '@coffer/core';
import type { Attention, RegisterRow, RegisterView, UnrecordedPayment, Unworkable } from '@coffer/contract';
import { fundsOn } from '../funds/funds-on.ts';
import { newestVersions } from '../instruments/instrument-store.ts';
import { reportedPositions } from '../instruments/reported-positions.ts';
import { openPeriod } from '../periods/period-store.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import type { ReportedInstrument } from './register-of-instrument.ts';

/** Every instrument of a company on a day: as reported where the day ends a closed month, else as known now. */
export async function registerOn(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  on: string,
): Promise<RegisterView> {
  const reported = await reportedOn(database, companyId, on);
  const day = parseDay(on) as CalendarDay;
  const recordingTo = reported ? undefined : (await openPeriod(database, companyId))?.ends_on;
  const stored: ReportedInstrument[] =
    reported ?? (await newestVersions(database, companyId)).map((version) => ({ version }));
  const rows: RegisterRow[] = [];
  const unrecorded: UnrecordedPayment[] = [];
  const attention: Attention[] = [];
  const unworkable: Unworkable[] = [];
  const due = new Array<number>(yearsApart + 1).fill(0);
  let settled = reported ? await settledBefore(database, companyId, on) : 0;
  for (const worked of await figures.each('register', { day, recordingTo }, stored)) {
    if ('unworkable' in worked) {
      unworkable.push(worked.unworkable);
      continue;
    }
    const { unrecorded: notRecorded, standing } = worked.made;
    unrecorded.push(...notRecorded);
    if (!standing) continue;
    attention.push(...standing.attention);
    if (standing.settled) settled += 1;
    else rows.push(standing.row);
    standing.maturities.forEach((amount, year) => {
      due[year] = (due[year] ?? 0) + amount;
    });
  }
  const wasReported = reported !== undefined;
  const held = await fundsOn(database, figures, companyId, { day, on, reported: wasReported }, rows);
  unworkable.push(...held.unworkable);
  const { funds } = held;
  return {
    on,
    reported: wasReported,
    rows,
    funds,
    unworkable,
    settled,
    unrecorded,
    attention,
    maturities: due,
  };
}

/** Instruments that were settled before a closed period, and of which it reported nothing. */
async function settledBefore(database: Knex, companyId: number, on: string): Promise<number> {
  const period = await database('period').where({ company_id: companyId, ends_on: on }).first('settled');
  return period?.settled ?? 0;
}

/** What a closed period reported, if the day ends one. */
async function reportedOn(
  database: Knex,
  companyId: number,
  on: string,
): Promise<ReportedInstrument[] | undefined> {
  const closed = await database('period')
    .where({ company_id: companyId, ends_on: on, state: 'closed' })
    .first();
  if (!closed) return undefined;
  const reported = await reportedPositions(database, companyId, on);
  return reported.map(({ version, row }) => ({ version, figures: row.figures }));
}
