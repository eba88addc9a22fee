import type { Knex } from 'knex';
import { formatDay, type Materiality } from '@coffer/core';
import { writtenSettingsOn } from '../company/settings.ts';
import { inChunks } from '../database/in-chunks.ts';
import type { LeftOutRow } from '../database/tables.ts';
import type { NotBooked } from './left-out.ts';
import { monthStart } from './period-store.ts';

/** From what amount on accruals of a month matter. */
export async function materialityOf(database: Knex, companyId: number, endsOn: string): Promise<Materiality> {
  return (await writtenSettingsOn(database, companyId, formatDay(monthStart(endsOn)))).materiality;
}

/** What a closed month did not book, by instrument. */
export async function keptLeftOut(
  database: Knex,
  companyId: number,
  endsOn: string,
): Promise<ReadonlyMap<string, NotBooked>> {
  const rows = await database('left_out').where({ company_id: companyId, period_end: endsOn });
  const found = new Map<string, { leftOut: Map<string, number>; madeGood: Map<string, number> }>();
  for (const { instrument_id: id, made_good: made, role, amount } of rows) {
    const of = found.get(id) ?? { leftOut: new Map(), madeGood: new Map() };
    found.set(id, of);
    of[made ? 'madeGood' : 'leftOut'].set(role, amount);
  }
  return found as ReadonlyMap<string, NotBooked>;
}

/** Keeps what closing a month does not book. */
export async function keepLeftOut(
  database: Knex,
  companyId: number,
  endsOn: string,
  made: readonly (readonly [id: string, of: NotBooked])[],
): Promise<void> {
  const rows = made.flatMap(([id, { leftOut, madeGood }]) =>
    (
      [
        [false, leftOut],
        [true, madeGood],
      ] as const
    ).flatMap(([made_good, balances]) =>
      [...balances]
        .filter(([, amount]) => amount !== 0)
        .map(([role, amount]): LeftOutRow => ({
          company_id: companyId,
          period_end: endsOn,
          instrument_id: id,
          made_good,
          role,
          amount,
        })),
    ),
  );
  await inChunks(rows, (chunk) => database('left_out').insert(chunk));
}

/** The closed months of each instrument whose accrual was left out, by their last days. */
export async function monthsLeftOut(
  database: Knex,
  companyId: number,
  only?: string,
): Promise<ReadonlyMap<string, readonly string[]>> {
  const rows = await database('left_out')
    .where({ company_id: companyId, made_good: false, ...(only !== undefined && { instrument_id: only }) })
    .distinct('instrument_id', 'period_end');
  const found = new Map<string, string[]>();
  for (const { instrument_id: id, period_end: end } of rows) {
    const months = found.get(id) ?? [];
    months.push(end);
    found.set(id, months);
  }
  return found;
}
