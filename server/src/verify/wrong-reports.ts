import type { Knex } from 'knex';
import { type AccountRole, type CalendarDay, formatAmount, type MinorUnits, parseDay } from '@coffer/core';
import type { FiguresView } from '@coffer/contract';
import type { Company } from '../company/company-store.ts';
import { reportedPositions, type Reported } from '../instruments/reported-positions.ts';
import { keptLeftOut } from '../periods/left-out-store.ts';
import { entryLines } from '../journal/entry-lines.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';

/** What an account of an instrument should hold of what was reported, debits positive. */
const reportedAs: readonly (readonly [readonly AccountRole[], (at: FiguresView) => number])[] = [
  [['loan-payable', 'bonds-payable', 'current-portion'], (at) => 0 - at.outstanding],
  [['current-portion'], (at) => 0 - at.current],
  [['interest-payable'], (at) => 0 - at.accruedInterest - at.accruedFee - at.unpaidInterest],
  [['bond-discount'], (at) => at.unamortizedDiscount],
  [['bond-premium'], (at) => 0 - at.unamortizedPremium],
  [['issue-costs'], (at) => at.unamortizedIssueCosts],
  [['deferred-costs'], (at) => at.deferredCosts],
  [['overpayment'], (at) => at.overpaid],
];

/** What closed months reported, against the ledger and against the version that it came from, worked out anew. */
export async function wrongReports(
  database: Knex,
  figures: FigureThreads,
  company: Company,
): Promise<string[]> {
  const closed = await database('period')
    .where({ company_id: company.id, state: 'closed' })
    .orderBy('ends_on')
    .pluck<string[]>('ends_on');
  const found: string[] = [];
  for (const endsOn of closed) {
    const reports = await reportedPositions(database, company.id, endsOn);
    found.push(...(await offTheLedger(database, company, endsOn, reports)));
    found.push(...(await workedOutOtherwise(figures, company, endsOn, reports)));
  }
  return found;
}

/** The ledger at the end of a closed month against what it reported. */
async function offTheLedger(
  database: Knex,
  company: Company,
  endsOn: string,
  reports: readonly Reported[],
): Promise<string[]> {
  const sums = await entryLines(database, company.id)
    .where('period_end', '<=', endsOn)
    .groupBy('instrument_id', 'role')
    .select<{ instrument_id: string; role: AccountRole; balance: string }[]>(
      'instrument_id',
      'role',
      database.raw('sum(debit::numeric - credit::numeric) as balance'),
    );
  const ledger = new Map<string, Map<AccountRole, number>>();
  for (const { instrument_id: id, role, balance } of sums) {
    const ofInstrument = ledger.get(id) ?? new Map<AccountRole, number>();
    ledger.set(id, ofInstrument.set(role, Number(balance)));
  }
  const notBooked = await keptLeftOut(database, company.id, endsOn);
  const reported = new Map(reports.map(({ row }) => [row.id, row]));
  const money = (minor: MinorUnits): string => formatAmount(minor, company.digits);
  const found: string[] = [];
  for (const id of new Set([...ledger.keys(), ...reported.keys()])) {
    const leftOut = notBooked.get(id)?.leftOut;
    const row = reported.get(id);
    for (const [roles, should] of reportedAs) {
      const holds = roles.reduce((sum, role) => sum + (ledger.get(id)?.get(role) ?? 0), 0);
      const left = roles.reduce((sum, role) => sum + (leftOut?.get(role) ?? 0), 0);
      const said = (row ? should(row.figures) : 0) - left;
      if (holds === said) continue;
      found.push(
        `${row?.name ?? id}, ${endsOn}: the ledger holds ${money(holds)} in ${roles.join(' and ')}, ` +
          `where ${money(said)} was reported.`,
      );
    }
  }
  return found;
}

/** What a closed month reported against the version that it came from, worked out anew. */
async function workedOutOtherwise(
  figures: FigureThreads,
  company: Company,
  endsOn: string,
  reports: readonly Reported[],
): Promise<string[]> {
  const day = parseDay(endsOn) as CalendarDay;
  const anew = await figures.each(
    'register',
    { day },
    reports.map(({ version }) => ({ version })),
  );
  return reports.flatMap(({ row }, at) => {
    const worked = anew[at];
    if (!worked || 'unworkable' in worked)
      return [`${row.name}, ${endsOn}: it cannot be worked out any more.`];
    const now = worked.made.standing?.row.figures;
    const then = row.figures;
    const keys = (Object.keys(then) as (keyof FiguresView)[]).filter(
      (key) => then[key] !== (now?.[key] ?? 0),
    );
    return keys.map(
      (key) =>
        `${row.name}, ${endsOn}: ${key} was reported as ${formatAmount(then[key], company.digits)}, and its version ` +
        `${row.version} gives ${formatAmount(now?.[key] ?? 0, company.digits)}.`,
    );
  });
}
