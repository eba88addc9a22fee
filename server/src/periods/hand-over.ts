import type { Knex } from 'knex';
import type { ConfirmCode, MonthComment, Question } from '@coffer/contract';
import type { CalendarDay } from '@coffer/core';
import { audit } from '../audit/audit.ts';
import { companyOf } from '../company/company-store.ts';
import type { PeriodRow } from '../database/tables.ts';
import { Refusal } from '../http/refusal.ts';
import type { Maker } from '../instruments/instrument-store.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { askAboutMonth } from './ask-about-month.ts';
import type { CloseDigest } from './close-digest.ts';
import { monthMade, refuseUnready, type MonthMade } from './month-made.ts';
import { commentsOn, keepComment, takeStep } from './month-steps.ts';
import { holdPeriod } from './period-store.ts';
import { asksForTwo } from './second-person.ts';

/** What a caller has seen of a month, and what of it they mean. */
export interface Seen {
  readonly digest: string;
  readonly confirm: readonly ConfirmCode[];
}

/**
 * Hands the open month over to who reviews it, as it was seen. Throws {@link Refusal} 409 where it is closed, where the
 * company asks for no second person, where it is not ready, or where it is not as it was seen.
 */
export async function handOver(
  database: Knex,
  figures: FigureThreads,
  by: Maker,
  endsOn: string,
  { digest, confirm }: Seen,
  today: CalendarDay,
): Promise<{ endsOn: string; state: 'prepared' }> {
  const period = await holdUnclosed(database, by.companyId, endsOn);
  if (!(await asksForTwo(database, by.companyId))) {
    throw new Refusal(409, 'one-person', 'This company asks for no second person: lock the month.');
  }
  const made = await monthMade(database, figures, by.companyId, period, true);
  await refuseUnmeant(database, by.companyId, made, { digest, confirm }, today);
  await takeStep(database, by, endsOn, 'handed-over', { seen: made, confirmed: confirm });
  await database('period').where({ company_id: by.companyId, ends_on: endsOn }).update({ state: 'prepared' });
  await audit(database, by, 'month-handed-over', [{ subject: endsOn, detail: { digest, confirm } }]);
  return { endsOn, state: 'prepared' };
}

/** Returns a month that was handed over. Throws {@link Refusal} 409 where it was not. */
export async function returnMonth(
  database: Knex,
  by: Maker,
  endsOn: string,
  comment: string,
  instrumentId: string | undefined,
): Promise<{ endsOn: string; state: 'open' }> {
  const period = await holdUnclosed(database, by.companyId, endsOn);
  if (period.state !== 'prepared') throw notHandedOver(endsOn);
  await keepComment(database, by, endsOn, comment, instrumentId);
  await takeStep(database, by, endsOn, 'returned', { comment });
  await database('period').where({ company_id: by.companyId, ends_on: endsOn }).update({ state: 'open' });
  await audit(database, by, 'month-returned', [{ subject: endsOn, detail: { comment } }]);
  return { endsOn, state: 'open' };
}

/** Says something about a month that is not closed, or about an instrument in it. Throws {@link Refusal} 404, 409. */
export async function commentOn(
  database: Knex,
  by: Maker,
  endsOn: string,
  text: string,
  instrumentId: string | undefined,
): Promise<{ comments: MonthComment[] }> {
  await holdUnclosed(database, by.companyId, endsOn);
  await keepComment(database, by, endsOn, text, instrumentId);
  await audit(database, by, 'month-commented', [{ subject: endsOn, detail: { instrumentId, text } }]);
  return { comments: await commentsOn(database, by.companyId, endsOn) };
}

/** A month that is not closed, held until the transaction ends. Throws {@link Refusal} 409 for one that is. */
export async function holdUnclosed(database: Knex, companyId: number, endsOn: string): Promise<PeriodRow> {
  const period = await holdPeriod(database, companyId, endsOn);
  if (period.state !== 'closed') return period;
  throw new Refusal(
    409,
    'already-locked',
    `The period to ${endsOn} is locked already and stays as it is. Corrections fall in the open period.`,
  );
}

/** What a month is refused with that nobody handed over. */
export function notHandedOver(endsOn: string): Refusal {
  return new Refusal(409, 'not-handed-over', `Nobody has handed the month to ${endsOn} over yet.`);
}

/**
 * A month is neither handed over nor closed that is not ready, that is not as it was seen, or of which something was not
 * confirmed. Throws {@link Refusal} 409.
 *
 * @param named what is asked about besides the month itself
 */
export async function refuseUnmeant(
  database: Knex,
  companyId: number,
  made: MonthMade,
  { digest, confirm }: { readonly digest?: string | undefined; readonly confirm: readonly ConfirmCode[] },
  today: CalendarDay,
  named: readonly Question[] = [],
): Promise<void> {
  const { digits } = await companyOf(database, companyId);
  refuseUnready(made, digits);
  await refuseUnseen(database, companyId, digest, made);
  askAboutMonth(made, digits, today, named, confirm);
}

/** Throws {@link Refusal} 409 for a month that is not as it was seen, naming what was changed last. */
async function refuseUnseen(
  database: Knex,
  companyId: number,
  seen: string | undefined,
  { digest }: CloseDigest,
): Promise<void> {
  if (seen === undefined || seen === digest) return;
  const last = await database('instrument_version')
    .join('instrument', 'instrument.id', 'instrument_version.instrument_id')
    .leftJoin('person', 'person.id', 'instrument_version.made_by')
    .where({ company_id: companyId })
    .orderByRaw('made_at desc, instrument.id')
    .first<{ name: string; version: number; by: string | null } | undefined>(
      'instrument.name',
      'instrument_version.version',
      'person.name as by',
    );
  const changed = last
    ? ` Changed last: ${last.name}, version ${last.version}, by ${last.by ?? 'Coffer'}.`
    : '';
  throw new Refusal(
    409,
    'not-as-seen',
    `The month is no longer as you saw it, and nothing was done; look at it again.${changed}`,
  );
}
