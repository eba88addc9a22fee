import type { Knex } from 'knex';
import type { CloseFund, FundFigures } from '@coffer/contract';
import { inChunks } from '../database/in-chunks.ts';
import type { ReportedFundRow } from '../database/tables.ts';
import { documentAsText } from '../instruments/instrument-store.ts';
import type { StoredVersion } from '../instruments/known-instruments.ts';

/** What a closed period reported of a fund, and the version that it came from. */
export interface FundReport {
  readonly version: StoredVersion;
  readonly fund: CloseFund;
}

/** The figures that a closed period reported. */
export function fundFiguresOf(row: ReportedFundRow): FundFigures {
  return {
    balance: row.balance,
    accruedInterest: row.accrued_interest,
    deposited: row.deposited,
    earned: row.earned,
    toGoal: row.to_goal,
  };
}

/** What a closed period reported of funds, by the names that they had then. */
export async function reportedFunds(
  database: Knex,
  companyId: number,
  periodEnd: string,
): Promise<FundReport[]> {
  const rows = await database('reported_fund')
    .join('instrument_version', (join) => {
      join
        .on('instrument_version.instrument_id', 'reported_fund.instrument_id')
        .andOn('instrument_version.version', 'reported_fund.instrument_version');
    })
    .where({ company_id: companyId, period_end: periodEnd })
    .orderByRaw(`lower(instrument_version.document ->> 'name')`)
    .select<(ReportedFundRow & { name: string; document: string })[]>(
      'reported_fund.*',
      database.raw(`instrument_version.document ->> 'name' as name`),
      documentAsText(database),
    );
  return rows.map((row) => ({
    version: { id: row.instrument_id, version: row.instrument_version, document: row.document },
    fund: {
      id: row.instrument_id,
      name: row.name,
      version: row.instrument_version,
      figures: fundFiguresOf(row),
    },
  }));
}

/** Keeps what closing a period reports of funds. */
export async function keepReportedFunds(
  database: Knex,
  companyId: number,
  periodEnd: string,
  funds: readonly CloseFund[],
): Promise<void> {
  const rows = funds.map(({ id, version, figures }): ReportedFundRow => ({
    company_id: companyId,
    period_end: periodEnd,
    instrument_id: id,
    instrument_version: version,
    balance: figures.balance,
    accrued_interest: figures.accruedInterest,
    deposited: figures.deposited,
    earned: figures.earned,
    to_goal: figures.toGoal,
  }));
  await inChunks(rows, (chunk) => database('reported_fund').insert(chunk));
}
