import type { Knex } from 'knex';
import { parseDay, type AccountRole, type CalendarDay } from '@coffer/core';
import type { CatchUp, CatchUpsView, CorrectedAccount, EntryView } from '@coffer/contract';
import { accountsOf } from '../accounts/accounts.ts';
import { companyOf } from '../company/company-store.ts';
import { draftView } from '../journal/entry-view.ts';
import { postedEntries } from '../journal/journal-store.ts';
import { monthWork } from '../periods/month-work.ts';
import { openPeriod } from '../periods/period-store.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';

/** Roles whose accounts make profit: they are told by what a month moves. */
export const profitRoles: readonly AccountRole[] = [
  'interest-expense',
  'fees',
  'interest-income',
  'redemption-gain-loss',
];

/** An entry, and the month that books it. */
interface Booked {
  readonly entry: EntryView;
  readonly bookedIn: string;
}

/**
 * Everything that closed months should have held otherwise, posted in a later month or still to be: corrections, and
 * what an instrument that was taken on late brings of closed months. In order of the month that books it.
 */
export async function allCatchUps(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
): Promise<CatchUp[]> {
  const booked = [
    ...(await postedCatchUps(database, companyId)),
    ...(await draftCatchUps(database, figures, companyId)),
  ];
  const reasons = await reasonsOf(database, companyId, booked);
  return booked.map(({ entry, bookedIn }): CatchUp => {
    const { number, forPeriod, instrumentId, instrument, version, lines } = entry;
    const why = reasons.get(`${instrumentId} ${version}`);
    return {
      number,
      bookedIn,
      forMonth: forPeriod ?? bookedIn,
      instrumentId,
      instrument,
      version,
      reason: why?.reason ?? '',
      by: why?.by ?? null,
      lines,
      expense: lines
        .filter(({ role }) => profitRoles.includes(role))
        .reduce((sum, { debit, credit }) => sum + debit - credit, 0),
    };
  });
}

/** The catch-ups that the months of a span book: together they say whether they matter (IAS 8.41–42; ASC 250-10-45). */
export async function catchUpsView(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  { from, to }: { readonly from: string; readonly to: string },
): Promise<CatchUpsView> {
  const catchUps = (await allCatchUps(database, figures, companyId)).filter(
    ({ bookedIn }) => bookedIn >= from && bookedIn <= to,
  );
  const accounts = new Map<string, CorrectedAccount>();
  for (const { role, code, account, debit, credit } of catchUps.flatMap(({ lines }) => lines)) {
    const sum = accounts.get(`${role} ${code}`) ?? { role, code, account, amount: 0 };
    accounts.set(`${role} ${code}`, { ...sum, amount: sum.amount + debit - credit });
  }
  return {
    from,
    to,
    catchUps,
    accounts: [...accounts.values()]
      .filter(({ amount }) => amount !== 0)
      .sort((one, other) => one.code.localeCompare(other.code)),
    expense: catchUps.reduce((sum, { expense }) => sum + expense, 0),
  };
}

async function postedCatchUps(database: Knex, companyId: number): Promise<Booked[]> {
  const { booksFrom } = await companyOf(database, companyId);
  const rows = await database('entry')
    .where({ company_id: companyId })
    .whereNotNull('for_period')
    // Balances that came on as the books began correct nothing.
    .where((either) => void either.where({ kind: 'correction' }).orWhere('for_period', '>=', booksFrom))
    .orderBy('number')
    .select('number', 'period_end');
  const months = new Map(rows.map((row) => [row.number, row.period_end]));
  const entries = await postedEntries(database, companyId, [...months.keys()]);
  return entries.map((entry) => ({ entry, bookedIn: months.get(entry.number ?? 0) ?? entry.date }));
}

async function draftCatchUps(database: Knex, figures: FigureThreads, companyId: number): Promise<Booked[]> {
  const period = await openPeriod(database, companyId);
  if (!period) return [];
  const { work, funds } = await monthWork(database, figures, companyId, period, false);
  const accounts = await accountsOf(database, companyId);
  const begun = parseDay((await companyOf(database, companyId)).booksFrom) as CalendarDay;
  const all = [
    ...work.map(({ row, inPeriod }) => ({ of: row, inPeriod })),
    ...funds.map(({ fund, inPeriod }) => ({ of: fund, inPeriod })),
  ];
  return all.flatMap(({ of, inPeriod }) =>
    inPeriod
      .filter(
        ({ kind, belongsTo }) => belongsTo !== undefined && (kind === 'correction' || belongsTo >= begun),
      )
      .map((entry) => ({ entry: draftView(accounts, entry, of), bookedIn: period.ends_on })),
  );
}

/** Why the versions that entries come from were made, by instrument and version; of a withdrawal why it was withdrawn. */
async function reasonsOf(
  database: Knex,
  companyId: number,
  booked: readonly Booked[],
): Promise<ReadonlyMap<string, { readonly reason: string; readonly by: string | null }>> {
  const ids = [...new Set(booked.map(({ entry }) => entry.instrumentId))];
  if (ids.length === 0) return new Map();
  const versions = await database('instrument_version')
    .join('instrument', 'instrument.id', 'instrument_version.instrument_id')
    .leftJoin('person', 'person.id', 'instrument_version.made_by')
    .where({ company_id: companyId })
    .whereIn('instrument_id', ids)
    .select<
      {
        id: string;
        version: number;
        reason: string;
        by: string | null;
        newest: number;
        gone: string | null;
      }[]
    >(
      'instrument_id as id',
      'instrument_version.version',
      'reason',
      'person.name as by',
      'instrument.version as newest',
      'withdrawn_because as gone',
    );
  return new Map(
    versions.map(({ id, version, reason, by, newest, gone }) => [
      `${id} ${version}`,
      { reason: version === newest && gone !== null ? `Withdrawn: ${gone}` : reason, by },
    ]),
  );
}
