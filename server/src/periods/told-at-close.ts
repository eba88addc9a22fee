import type { Knex } from 'knex';
import * as v from 'valibot';
import { toldAtClose, type DifferenceLine, type ToldAtClose } from '@coffer/contract';
import { inChunks } from '../database/in-chunks.ts';
import type { MonthMade } from './month-made.ts';

/** What a closed month told of each instrument; none for one that was closed before anything was kept of it. */
export async function toldBy(
  database: Knex,
  companyId: number,
  endsOn: string,
): Promise<ReadonlyMap<string, ToldAtClose> | undefined> {
  const rows = await database('told_at_close')
    .where({ company_id: companyId, period_end: endsOn })
    .orderBy('instrument_id');
  if (rows.length === 0) return undefined;
  return new Map(rows.map(({ instrument_id: id, told }) => [id, v.parse(toldAtClose, told)]));
}

/** Keeps what closing a month tells: each difference, and what was not recorded or fixed. */
export async function keepTold(
  database: Knex,
  companyId: number,
  endsOn: string,
  { work }: MonthMade,
  differences: readonly DifferenceLine[],
): Promise<void> {
  const workOf = new Map(work.map((done) => [done.row.id, done]));
  const rows = differences.map(({ id, name, ...difference }) => {
    const done = workOf.get(id);
    const fixingMissing = done?.attention.find(({ kind }) => kind === 'fixing-due')?.on;
    const told: ToldAtClose = {
      name,
      difference,
      payments: done?.payments ?? { due: 0, recorded: 0 },
      unrecorded: (done?.unrecorded ?? []).map(({ due, amount }) => ({ due, amount })),
      ...(fixingMissing !== undefined && { fixingMissing }),
    };
    return { company_id: companyId, period_end: endsOn, instrument_id: id, told: JSON.stringify(told) };
  });
  await inChunks(rows, (chunk) => database('told_at_close').insert(chunk));
}
