import type { Knex } from 'knex';
import { accountRoles } from '@coffer/core';
import type { CompanyView, PeriodView } from '@coffer/contract';
import { accountsOf } from '../accounts/accounts.ts';
import type { PeriodRow } from '../database/tables.ts';
import { companyOf } from './company-store.ts';
import { habitsOf } from './settings.ts';

/** The company's periods, oldest first. */
export async function periodsOf(database: Knex, companyId: number): Promise<PeriodView[]> {
  const rows = await database('period')
    .leftJoin('person', 'person.id', 'period.closed_by')
    .where('period.company_id', companyId)
    .orderBy('ends_on')
    .select<(Pick<PeriodRow, 'ends_on' | 'state' | 'closed_at' | 'closed_as'> & { name: string | null })[]>(
      'ends_on',
      'state',
      'closed_at',
      'closed_as',
      'person.name',
    );
  return rows.map((row) => ({
    endsOn: row.ends_on,
    state: row.state,
    closedAt: row.closed_at?.toISOString() ?? null,
    closedBy: row.name,
    closedAs: row.closed_as,
  }));
}

/** The company as the contract shows it. */
export async function companyView(database: Knex, companyId: number): Promise<CompanyView> {
  const company = await companyOf(database, companyId);
  const { id } = company;
  const chart = await accountsOf(database, id);
  const accounts = accountRoles.flatMap((role) => {
    const account = chart.byDefault(role);
    return account ? [{ role, ...account }] : [];
  });
  return {
    ...company,
    periods: await periodsOf(database, id),
    ...(await habitsOf(database, id)),
    accounts,
  };
}
