import type { Knex } from 'knex';
import {
  accountRoles,
  incomeRoles,
  parseDay,
  type AccountRole,
  type CalendarDay,
  type Entry,
} from '@coffer/core';
import { entryLines } from '../journal/entry-lines.ts';
import type { Accounts } from './accounts.ts';

interface Standing {
  readonly instrument_id: string;
  readonly role: AccountRole;
  readonly code: string;
  readonly amount: string;
}

/**
 * What moves balances to the accounts in force: where an account was changed, what stands in the one before is taken
 * out of it on the first day of the open month. Income and expense stay where they were posted, and so does cash: it
 * left the bank account that it left, and only a bank moves it to another. Common practice.
 *
 * @returns an entry for each instrument that has such a balance
 */
export async function transfersDue(
  database: Knex,
  companyId: number,
  periodEnd: string,
  accounts: Accounts,
  only?: string,
): Promise<ReadonlyMap<string, Entry>> {
  const balanceRoles = accountRoles.filter((role) => role !== 'cash' && !incomeRoles.has(role));
  const rows = await entryLines(database, companyId)
    .where(only === undefined ? {} : { 'entry.instrument_id': only })
    .leftJoin('account_of_instrument as own', (on) => {
      on.on('own.instrument_id', 'entry.instrument_id').andOn('own.role', 'entry_line.role');
    })
    .leftJoin('account_of_role as usual', (on) => {
      on.on('usual.company_id', 'entry.company_id').andOn('usual.role', 'entry_line.role');
    })
    .whereIn('entry_line.role', balanceRoles)
    .whereRaw('entry_line.account_code <> coalesce(own.code, usual.code)')
    .groupBy('entry.instrument_id', 'entry_line.role', 'entry_line.account_code')
    .havingRaw('sum(debit::numeric - credit::numeric) <> 0')
    .orderBy(['entry.instrument_id', 'entry_line.role', 'entry_line.account_code'])
    .select<Standing[]>(
      'entry.instrument_id',
      'entry_line.role',
      'entry_line.account_code as code',
      database.raw('sum(debit::numeric - credit::numeric) as amount'),
    );
  const date = parseDay(`${periodEnd.slice(0, 8)}01`) as CalendarDay;
  const moved = new Map<string, Entry['lines'][number][]>();
  for (const row of rows) {
    const to = accounts.of(row.instrument_id, row.role)?.code;
    if (to === undefined) continue;
    const amount = Number(row.amount);
    const [debit, credit] = amount > 0 ? [amount, 0] : [0, -amount];
    const lines = moved.get(row.instrument_id) ?? [];
    lines.push({ account: row.role, debit, credit, code: to });
    lines.push({ account: row.role, debit: credit, credit: debit, code: row.code });
    moved.set(row.instrument_id, lines);
  }
  return new Map(
    [...moved].map(([id, lines]): [string, Entry] => [
      id,
      {
        date,
        kind: 'transfer',
        memo: 'Moved to the account in force',
        row: null,
        lines: lines.toSorted((one, other) => Number(one.credit > 0) - Number(other.credit > 0)),
      },
    ]),
  );
}
