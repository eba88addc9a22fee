import type { Knex } from 'knex';
import { parseDay, type CalendarDay } from '@coffer/core';
import type { DuePaymentsView } from '@coffer/contract';
import { newestVersions } from '../instruments/instrument-store.ts';
import { monthStart, openPeriod } from '../periods/period-store.ts';
import type { FigureThreads } from '../workers/figure-threads.ts';

/** Arrears of earlier months, then what falls due in the open one: in order of the day, then of the name. */
export async function paymentsOfMonth(
  database: Knex,
  figures: FigureThreads,
  companyId: number,
): Promise<DuePaymentsView> {
  const open = await openPeriod(database, companyId);
  if (!open) return { month: null, payments: [] };
  const asked = { from: monthStart(open.ends_on), to: parseDay(open.ends_on) as CalendarDay };
  const stored = await newestVersions(database, companyId);
  const items = stored.map((version) => ({ version }));
  // What cannot be worked out is told in register and close; the other payments can be recorded.
  const payments = (await figures.each('due-payments', asked, items)).flatMap((worked) =>
    'made' in worked ? worked.made : [],
  );
  payments.sort((one, other) => one.due.localeCompare(other.due));
  return { month: open.ends_on, payments };
}
