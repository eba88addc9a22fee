import type { Knex } from 'knex';
import type { FiguresView, InstrumentView } from '@coffer/contract';
import { newestVersion, versionOf } from './instrument-store.ts';
import { documentOf } from './known-instruments.ts';

/** A row of `reported_position`. */
export interface ReportedRow {
  readonly period_end: string;
  readonly instrument_id: string;
  readonly instrument_version: number;
  readonly outstanding: number;
  readonly accrued_interest: number;
  readonly accrued_fee: number;
  readonly unpaid_interest: number;
  readonly unamortized_discount: number;
  readonly unamortized_premium: number;
  readonly unamortized_issue_costs: number;
  readonly deferred_costs: number;
  readonly overpaid: number;
  readonly deferred_interest: number;
  readonly carrying: number;
  readonly current: number;
  readonly non_current: number;
  readonly expense: number;
  readonly amortized: number;
  readonly current_change: number;
}

/** The figures of what is not there. */
export const noFigures: FiguresView = {
  outstanding: 0,
  accruedInterest: 0,
  accruedFee: 0,
  unpaidInterest: 0,
  deferredInterest: 0,
  unamortizedDiscount: 0,
  unamortizedPremium: 0,
  unamortizedIssueCosts: 0,
  deferredCosts: 0,
  overpaid: 0,
  carrying: 0,
  current: 0,
  nonCurrent: 0,
};

/** The figures that a closed period reported. */
export function figuresOfRow(row: ReportedRow): FiguresView {
  return {
    outstanding: row.outstanding,
    accruedInterest: row.accrued_interest,
    accruedFee: row.accrued_fee,
    unpaidInterest: row.unpaid_interest,
    unamortizedDiscount: row.unamortized_discount,
    unamortizedPremium: row.unamortized_premium,
    unamortizedIssueCosts: row.unamortized_issue_costs,
    deferredCosts: row.deferred_costs,
    overpaid: row.overpaid,
    deferredInterest: row.deferred_interest,
    carrying: row.carrying,
    current: row.current,
    nonCurrent: row.non_current,
  };
}

/** An instrument with its versions and what closed periods reported of it; of the newest version or another. */
export async function instrumentView(
  database: Knex,
  companyId: number,
  id: string,
  wanted?: number,
): Promise<InstrumentView> {
  const newest = await newestVersion(database, companyId, id);
  const stored = wanted === undefined ? newest : await versionOf(database, newest.id, wanted);
  const document = documentOf(stored);
  const versions = await database('instrument_version')
    .leftJoin('person', 'person.id', 'instrument_version.made_by')
    .where({ instrument_id: id })
    .orderBy('version', 'desc')
    .select<{ version: number; reason: string; made_at: Date; name: string | null }[]>(
      'version',
      'reason',
      'made_at',
      'person.name',
    );
  const reported = await database('reported_position')
    .where({ company_id: companyId, instrument_id: id })
    .orderBy('period_end')
    .select<ReportedRow[]>();
  const withdrawn = await database('instrument')
    .leftJoin('person', 'person.id', 'instrument.withdrawn_by')
    .where('instrument.id', id)
    .whereNotNull('withdrawn_at')
    .first<{ withdrawn_at: Date; name: string | null; withdrawn_because: string } | undefined>(
      'withdrawn_at',
      'person.name',
      'withdrawn_because',
    );
  return {
    id,
    version: stored.version,
    document,
    versions: versions.map((row) => ({
      version: row.version,
      madeBy: row.name ?? 'Set-up',
      madeAt: row.made_at.toISOString(),
      reason: row.reason,
    })),
    withdrawn: withdrawn
      ? {
          at: withdrawn.withdrawn_at.toISOString(),
          by: withdrawn.name ?? 'Set-up',
          reason: withdrawn.withdrawn_because,
        }
      : null,
    reported: reported.map((row) => ({
      periodEnd: row.period_end,
      version: row.instrument_version,
      figures: figuresOfRow(row),
    })),
  };
}
