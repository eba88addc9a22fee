import type { Knex } from 'knex';
import { accountRoles } from '@coffer/core';
import type { InstrumentView } from '@coffer/contract';
import { accountsOf } from '../accounts/accounts.ts';
import { newestVersion, versionOf } from './instrument-store.ts';
import { fundFiguresOf } from '../funds/reported-funds.ts';
import { anyDocumentOf } from './known-instruments.ts';
import { figuresOfRow } from './reported-positions.ts';

/** An instrument with its versions and what closed periods reported of it; of the newest version or another. */
export async function instrumentView(
  database: Knex,
  companyId: number,
  id: string,
  wanted?: number,
): Promise<InstrumentView> {
  const newest = await newestVersion(database, companyId, id);
  const stored = wanted === undefined ? newest : await versionOf(database, newest.id, wanted);
  const document = anyDocumentOf(stored);
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
    .select();
  const fund = await database('reported_fund')
    .where({ company_id: companyId, instrument_id: id })
    .orderBy('period_end')
    .select();
  const withdrawn = await database('instrument')
    .leftJoin('person', 'person.id', 'instrument.withdrawn_by')
    .where('instrument.id', id)
    .whereNotNull('withdrawn_at')
    .first<{ withdrawn_at: Date; name: string | null; withdrawn_because: string } | undefined>(
      'withdrawn_at',
      'person.name',
      'withdrawn_because',
    );
  const accounts = await accountsOf(database, companyId);
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
    accounts: accountRoles.flatMap((role) => {
      const account = accounts.of(id, role);
      return account ? [{ role, ...account, own: accounts.isOwn(id, role) }] : [];
    }),
    costCentre: accounts.costCentre(id),
    reported: reported.map((row) => ({
      periodEnd: row.period_end,
      version: row.instrument_version,
      figures: figuresOfRow(row),
    })),
    reportedFund: fund.map((row) => ({
      periodEnd: row.period_end,
      version: row.instrument_version,
      figures: fundFiguresOf(row),
    })),
  };
}
