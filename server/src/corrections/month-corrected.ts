import type { Knex } from 'knex';
import { accountRoles, type AccountRole } from '@coffer/core';
import { accountName, type CatchUp, type MonthCorrectedView } from '@coffer/contract';
import { Refusal } from '../http/refusal.ts';
import { entryLines } from '../journal/entry-lines.ts';
import { periodEnding } from '../periods/period-store.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import { allCatchUps, profitRoles } from './catch-ups.ts';

/**
 * A month as it was reported beside what is known of it now. Profit is told by what the month moved, the rest by where it
 * stood at the end of it. Throws {@link Refusal} 404, and 409 for a month that is not closed.
 */
export async function monthCorrected(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  endsOn: string,
): Promise<MonthCorrectedView> {
  const { state } = await periodEnding(database, companyId, endsOn);
  if (state !== 'closed') {
    throw new Refusal(
      409,
      'not-closed',
      `The month to ${endsOn} is not closed: nothing was reported of it yet.`,
    );
  }
  const all = await allCatchUps(database, figures, companyId);
  const later = all.filter(({ bookedIn, forMonth }) => bookedIn > endsOn && forMonth <= endsOn);
  const reported = await reportedOf(database, companyId, endsOn);
  const accounts = accountRoles.flatMap((role) => {
    const ofProfit = profitRoles.includes(role);
    // Of profit: what is for this month alone; what it booked for others is theirs.
    const came = movedIn(
      later.filter(({ forMonth }) => !ofProfit || forMonth === endsOn),
      role,
    );
    const ofOthers = ofProfit
      ? movedIn(
          all.filter(({ bookedIn, forMonth }) => bookedIn === endsOn && forMonth < endsOn),
          role,
        )
      : 0;
    const was = reported.get(role) ?? 0;
    const known = was + came - ofOthers;
    return known === was ? [] : [{ role, account: accountName(role), reported: was, known }];
  });
  return { endsOn, accounts, catchUps: later };
}

function movedIn(catchUps: readonly CatchUp[], role: AccountRole): number {
  return catchUps
    .flatMap(({ lines }) => lines)
    .filter((line) => line.role === role)
    .reduce((sum, { debit, credit }) => sum + debit - credit, 0);
}

/** What accounts were reported at: moved in the month where they make profit, standing at its end where not. */
async function reportedOf(
  database: Knex,
  companyId: number,
  endsOn: string,
): Promise<ReadonlyMap<AccountRole, number>> {
  const rows = await entryLines(database, companyId)
    .where('period_end', '<=', endsOn)
    .groupBy('role')
    .select<{ role: AccountRole; standing: string; moved: string | null }[]>(
      'role',
      database.raw('sum(debit::numeric - credit::numeric) as standing'),
      database.raw('sum(debit::numeric - credit::numeric) filter (where period_end = ?) as moved', [endsOn]),
    );
  return new Map(
    rows.map(({ role, standing, moved }) => [
      role,
      Number(profitRoles.includes(role) ? (moved ?? 0) : standing),
    ]),
  );
}
