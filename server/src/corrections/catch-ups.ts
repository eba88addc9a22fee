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
  /** None where it is still to be posted. */
  readonly postedAt?: Date | undefined;
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
  return booked.map((of): CatchUp => {
    const { entry, bookedIn } = of;
    const { number, forPeriod, instrumentId, instrument, version, lines } = entry;
    return {
      number,
      bookedIn,
      forMonth: forPeriod ?? bookedIn,
      instrumentId,
      instrument,
      version,
      ...reasons(of),
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
    .select('number', 'period_end', 'posted_at');
  const posted = new Map(rows.map((row) => [row.number, row]));
  const entries = await postedEntries(database, companyId, [...posted.keys()]);
  return entries.map((entry) => {
    const row = posted.get(entry.number ?? 0);
    return { entry, bookedIn: row?.period_end ?? entry.date, postedAt: row?.posted_at };
  });
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

/** Why something is booked, and who decided it. */
interface Why {
  readonly reason: string;
  readonly by: string | null;
}

/**
 * Why each entry is booked: the reasons of what was changed since the close before it, or why the instrument was withdrawn
 * where it was by then. What is decided after an entry was posted is no reason of it.
 */
async function reasonsOf(
  database: Knex,
  companyId: number,
  booked: readonly Booked[],
): Promise<(of: Booked) => Why> {
  const ids = [...new Set(booked.map(({ entry }) => entry.instrumentId))];
  if (ids.length === 0) return () => ({ reason: '', by: null });
  const versions = await database('instrument_version')
    .leftJoin('person', 'person.id', 'instrument_version.made_by')
    .whereIn('instrument_id', ids)
    .orderBy(['instrument_id', 'version'])
    .select<(Why & { id: string; version: number })[]>(
      'instrument_id as id',
      'version',
      'reason',
      'person.name as by',
    );
  const reported = await database('reported_position')
    .where({ company_id: companyId })
    .whereIn('instrument_id', ids)
    .orderBy(['instrument_id', 'period_end'])
    .select<{ id: string; version: number; end: string }[]>(
      'instrument_id as id',
      'instrument_version as version',
      'period_end as end',
    );
  const withdrawals = await database('instrument')
    .leftJoin('person', 'person.id', 'instrument.withdrawn_by')
    .whereIn('instrument.id', ids)
    .whereNotNull('withdrawn_at')
    .select<{ id: string; at: Date; because: string; by: string | null }[]>(
      'instrument.id',
      'withdrawn_at as at',
      'withdrawn_because as because',
      'person.name as by',
    );
  const versionsOf = grouped(versions);
  const reportedOf = grouped(reported);
  const withdrawnAs = new Map(withdrawals.map((one) => [one.id, one]));
  return ({ entry: { instrumentId: id, version }, bookedIn, postedAt }) => {
    const gone = withdrawnAs.get(id);
    if (gone && (postedAt === undefined || postedAt >= gone.at)) {
      return { reason: `Withdrawn: ${gone.because}`, by: gone.by };
    }
    const before = reportedOf.get(id)?.findLast(({ end }) => end < bookedIn)?.version ?? 0;
    const own = versionsOf.get(id) ?? [];
    const since = own.filter((each) => each.version > before && each.version <= version);
    const told = since.length > 0 ? since : own.filter((each) => each.version === version);
    const by = [...new Set(told.flatMap((each) => (each.by === null ? [] : [each.by])))];
    return {
      reason: [...new Set(told.map(({ reason }) => reason))].join('; '),
      by: by.length === 0 ? null : by.join(', '),
    };
  };
}

function grouped<Row extends { readonly id: string }>(rows: readonly Row[]): ReadonlyMap<string, Row[]> {
  const found = new Map<string, Row[]>();
  for (const row of rows) found.set(row.id, [...(found.get(row.id) ?? []), row]);
  return found;
}
