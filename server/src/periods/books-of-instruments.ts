import type { Knex } from 'knex';
import { parseDay, type AccountRole, type Balances, type Books, type CalendarDay } from '@coffer/core';
import { entryLines } from '../journal/entry-lines.ts';
import { monthsLeftOut } from './left-out-store.ts';

/** The books of instruments as a month is closed: the closed months each in one sum, which is mostly all it takes. */
export async function booksOfInstruments(
  database: Knex,
  companyId: number,
  endsOn: string,
  only?: string,
): Promise<ReadonlyMap<string, Books>> {
  const ofOne = only === undefined ? {} : { instrument_id: only };
  const sums = await entryLines(database, companyId)
    .where(ofOne)
    .groupBy('instrument_id', 'role', 'open')
    .select<Sum[]>(
      'instrument_id',
      'role',
      database.raw('(period_end = ? and for_period is null) as open', [endsOn]),
      database.raw('sum(debit::numeric - credit::numeric) as amount'),
    );
  const openings = await database('entry')
    .where({ company_id: companyId, kind: 'opening', ...ofOne })
    .select('instrument_id', 'for_period');
  const reported = await database('reported_position')
    .where({ company_id: companyId, ...ofOne })
    .distinct('instrument_id');
  const openedAt = new Map(
    openings.map((row) => [
      row.instrument_id,
      row.for_period === null ? undefined : parseDay(row.for_period),
    ]),
  );
  const known = new Set(reported.map((row) => row.instrument_id));
  const found = new Map<string, { closed: Map<AccountRole, number>; open: Map<AccountRole, number> }>();
  for (const id of known) found.set(id, { closed: new Map(), open: new Map() });
  for (const { instrument_id: id, role, open, amount } of sums) {
    const held = found.get(id) ?? {
      closed: new Map<AccountRole, number>(),
      open: new Map<AccountRole, number>(),
    };
    found.set(id, held);
    held[open ? 'open' : 'closed'].set(role, Number(amount));
  }
  const leftOut = await monthsLeftOut(database, companyId, only);
  const last = (parseDay(`${endsOn.slice(0, 8)}01`) as CalendarDay) - 1;
  const books = [...found].map(([id, { closed, open }]): [string, Books] => {
    const months = closed.size === 0 ? [] : [{ end: last, moved: closed }];
    return [
      id,
      {
        closed: months,
        open,
        known: known.has(id),
        openedAt: openedAt.get(id),
        leftOut: new Set((leftOut.get(id) ?? []).map((end) => parseDay(end) as CalendarDay)),
      },
    ];
  });
  return new Map(books);
}

/** The same books, the closed months one by one: for instruments whose books are to be corrected. */
export async function monthByMonth(
  database: Knex,
  companyId: number,
  endsOn: string,
  books: ReadonlyMap<string, Books>,
  ids: readonly string[],
): Promise<ReadonlyMap<string, Books>> {
  const sums = await entryLines(database, companyId)
    .whereIn('instrument_id', [...ids])
    .whereRaw('not (period_end = ? and for_period is null)', [endsOn])
    .groupBy('instrument_id', 'month', 'role')
    .orderBy('month')
    .select<MonthSum[]>(
      'instrument_id',
      database.raw('coalesce(for_period, period_end) as month'),
      'role',
      database.raw('sum(debit::numeric - credit::numeric) as amount'),
    );
  const months = new Map<string, Map<string, Map<AccountRole, number>>>(ids.map((id) => [id, new Map()]));
  for (const { instrument_id: id, month, role, amount } of sums) {
    const ofInstrument = months.get(id);
    const moved = ofInstrument?.get(month) ?? new Map<AccountRole, number>();
    ofInstrument?.set(month, moved.set(role, Number(amount)));
  }
  return new Map(
    [...months].map(([id, ofInstrument]): [string, Books] => {
      const closed = [...ofInstrument].map(([month, moved]) => ({
        end: parseDay(month) as CalendarDay,
        moved: moved as Balances,
      }));
      return [id, { ...(books.get(id) as Books), closed }];
    }),
  );
}

interface Sum {
  readonly instrument_id: string;
  readonly role: AccountRole;
  readonly open: boolean;
  readonly amount: string;
}

interface MonthSum {
  readonly instrument_id: string;
  readonly month: string;
  readonly role: AccountRole;
  readonly amount: string;
}
