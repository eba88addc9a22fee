import type { Knex } from 'knex';
import type { AccountRole } from '@coffer/core';
import { accountName } from '@coffer/contract';

/** An account of the chart. */
export interface Account {
  readonly code: string;
  readonly name: string;
}

/** The accounts that entries go to: by role, unless an instrument has one of its own. */
export class Accounts {
  constructor(
    private readonly chart: ReadonlyMap<string, Account>,
    private readonly defaults: ReadonlyMap<AccountRole, string>,
    private readonly own: ReadonlyMap<string, ReadonlyMap<AccountRole, string>>,
    private readonly centres: ReadonlyMap<string, string>,
  ) {}

  /** The account of a role, of an instrument's own where it has one; `undefined` where there is none. */
  of(instrumentId: string, role: AccountRole): Account | undefined {
    const code = this.own.get(instrumentId)?.get(role) ?? this.defaults.get(role);
    return code === undefined ? undefined : this.chart.get(code);
  }

  /** Whether an instrument has an account of its own for a role. */
  isOwn(instrumentId: string, role: AccountRole): boolean {
    return this.own.get(instrumentId)?.has(role) ?? false;
  }

  /** The default account of a role. */
  byDefault(role: AccountRole): Account | undefined {
    const code = this.defaults.get(role);
    return code === undefined ? undefined : this.chart.get(code);
  }

  /** An account by its code; of a role's own name where there is none. */
  named(code: string | undefined, role: AccountRole): Account {
    return (
      (code === undefined ? undefined : this.chart.get(code)) ?? { code: code ?? '', name: accountName(role) }
    );
  }

  costCentre(instrumentId: string): string | null {
    return this.centres.get(instrumentId) ?? null;
  }
}

/** The accounts of a company as they are in force now. */
export async function accountsOf(database: Knex, companyId: number): Promise<Accounts> {
  const of = { company_id: companyId };
  const chart = await database('account').where(of).select('code', 'name');
  const defaults = await database('account_of_role').where(of).select('role', 'code');
  const own = await database('account_of_instrument').where(of).select('instrument_id', 'role', 'code');
  const centres = await database('instrument')
    .where(of)
    .whereNotNull('cost_centre')
    .select('id', 'cost_centre');
  const byInstrument = new Map<string, Map<AccountRole, string>>();
  for (const { instrument_id: id, role, code } of own) {
    byInstrument.set(id, (byInstrument.get(id) ?? new Map<AccountRole, string>()).set(role, code));
  }
  return new Accounts(
    new Map(chart.map(({ code, name }) => [code, { code, name }])),
    new Map(defaults.map(({ role, code }) => [role, code])),
    byInstrument,
    new Map(centres.map((row) => [row.id, row.cost_centre ?? ''])),
  );
}
