import type { Knex } from 'knex';
import type { CalendarDay } from '@coffer/core';
import type { FundRowView, RegisterRow, Unworkable } from '@coffer/contract';
import { newestFunds } from '../instruments/instrument-store.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';
import type { ReportedFund } from './fund-standing.ts';
import { reportedFunds } from './reported-funds.ts';

/** The funds of a company on a day, each beside what it repays; as reported where the day ends a closed period. */
export async function fundsOn(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
  { day, on, reported }: { readonly day: CalendarDay; readonly on: string; readonly reported: boolean },
  debts: readonly RegisterRow[],
): Promise<{ funds: FundRowView[]; unworkable: Unworkable[] }> {
  const stored: ReportedFund[] = reported
    ? (await reportedFunds(database, companyId, on)).map(({ version, fund }) => ({
        version,
        figures: fund.figures,
      }))
    : (await newestFunds(database, companyId)).map((version) => ({ version }));
  const funds: FundRowView[] = [];
  const unworkable: Unworkable[] = [];
  const byName = new Map(debts.map((row) => [row.name.toLowerCase(), row]));
  for (const worked of await figures.each('fund-standing', { day }, stored)) {
    if ('unworkable' in worked) unworkable.push(worked.unworkable);
    else if (worked.made) {
      const debt = byName.get(worked.made.repays?.toLowerCase() ?? '');
      funds.push({ ...worked.made, repaysId: debt?.id ?? null, owed: debt?.figures.outstanding ?? null });
    }
  }
  return { funds, unworkable };
}
