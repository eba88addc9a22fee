import type { Knex } from 'knex';
import { addMonths, formatDay, monthEnd, parseDay, type AccrualChoice, type CalendarDay } from '@coffer/core';
import { companyOf } from '../company/company-store.ts';
import type { PeriodRow } from '../database/tables.ts';
import { Refusal } from '../http/refusal.ts';

/** The first day of the month that a day ends. */
export function monthStart(endsOn: string): CalendarDay {
  return addMonths(parseDay(endsOn) as CalendarDay, -1, true) + 1;
}

/** The period of a company that is not closed: open, or handed over. */
export function openPeriod(database: Knex, companyId: number): Promise<PeriodRow | undefined> {
  return database('period').where({ company_id: companyId }).whereNot({ state: 'closed' }).first();
}

/** The first and the last day of the months that are closed; the last is before the first where there are none. */
export interface ClosedMonths {
  readonly from: CalendarDay;
  readonly to: CalendarDay;
}

/** The months of a company that are closed. */
export async function closedMonths(database: Knex, companyId: number): Promise<ClosedMonths> {
  const { booksFrom } = await companyOf(database, companyId);
  const from = parseDay(booksFrom) as CalendarDay;
  const open = await openPeriod(database, companyId);
  return { from, to: open ? monthStart(open.ends_on) - 1 : from - 1 };
}

/** What becomes of a month's accruals, and what became of those of the month before. */
export interface AccrualChoices {
  readonly before: AccrualChoice;
  readonly now: AccrualChoice;
}

/** The choices that closing a month goes by. */
export async function accrualChoicesOf(
  database: Knex,
  companyId: number,
  { ends_on: endsOn, accruals }: PeriodRow,
): Promise<AccrualChoices> {
  const before = await database('period')
    .where({ company_id: companyId, ends_on: formatDay(monthStart(endsOn) - 1) })
    .first();
  return { before: before?.accruals ?? 'reversed', now: accruals };
}

/** A period by its last day. Throws {@link Refusal} 404, saying what the last day would be or when it opens. */
export async function periodEnding(database: Knex, companyId: number, endsOn: string): Promise<PeriodRow> {
  const found = await database('period').where({ company_id: companyId, ends_on: endsOn }).first();
  if (found) return found;
  const day = parseDay(endsOn) as CalendarDay;
  const open = await openPeriod(database, companyId);
  const why =
    monthEnd(day) !== day
      ? 'periods end on the last day of a month.'
      : open && endsOn > open.ends_on
        ? `it opens when the period to ${open.ends_on} and those after it are locked.`
        : 'it lies before the books began.';
  throw new Refusal(404, 'no-such-period', `There is no period to ${endsOn}; ${why}`);
}

/** The same, held until the transaction ends: nobody else closes it or chooses for it meanwhile. Throws alike. */
export async function holdPeriod(database: Knex, companyId: number, endsOn: string): Promise<PeriodRow> {
  await database('period').where({ company_id: companyId, ends_on: endsOn }).forUpdate().select('ends_on');
  return periodEnding(database, companyId, endsOn);
}
