import type { Knex } from 'knex';
import { formatDay, type Entry } from '@coffer/core';
import type { Accounts } from '../accounts/accounts.ts';
import type { Maker } from '../instruments/instrument-store.ts';

/** An entry and the version of the instrument that it comes from. */
export interface EntryToPost {
  readonly entry: Entry;
  readonly instrumentId: string;
  readonly version: number;
}

const atATime = 2000;

/** Posts entries to an open period, numbered on from the last, each line in the account in force. The database checks balance, period and numbers. */
export async function postEntries(
  database: Knex,
  by: Maker,
  periodEnd: string,
  accounts: Accounts,
  entries: readonly EntryToPost[],
): Promise<void> {
  if (entries.length === 0) return;
  const [company] = await database('company')
    .where({ id: by.companyId })
    .increment('last_entry_number', entries.length)
    .returning('last_entry_number');
  const first = (company?.last_entry_number ?? 0) - entries.length + 1;
  for (let from = 0; from < entries.length; from += atATime) {
    await insertBatch(database, by, periodEnd, accounts, entries.slice(from, from + atATime), first + from);
  }
}

async function insertBatch(
  database: Knex,
  by: Maker,
  periodEnd: string,
  accounts: Accounts,
  entries: readonly EntryToPost[],
  first: number,
): Promise<void> {
  const heads = entries.map(({ entry, instrumentId, version }, at) => ({
    company_id: by.companyId,
    number: first + at,
    period_end: periodEnd,
    date: formatDay(entry.date),
    kind: entry.kind,
    memo: entry.memo,
    instrument_id: instrumentId,
    instrument_version: version,
    row_number: entry.row,
    for_period: entry.belongsTo === undefined ? null : formatDay(entry.belongsTo),
    posted_by: by.id,
    cost_centre: accounts.costCentre(instrumentId),
  }));
  const lines = entries.flatMap(({ entry, instrumentId }, at) =>
    entry.lines.map((line, place) => ({
      company_id: by.companyId,
      number: first + at,
      line: place + 1,
      role: line.account,
      account_code: line.code ?? accounts.of(instrumentId, line.account)?.code,
      debit: line.debit,
      credit: line.credit,
    })),
  );
  await database.raw(
    `insert into entry (company_id, number, period_end, date, kind, memo, instrument_id, instrument_version, row_number, for_period, posted_by, cost_centre)
     select company_id, number, period_end, date, kind, memo, instrument_id, instrument_version, row_number, for_period, posted_by, cost_centre
       from jsonb_populate_recordset(null::entry, ?::jsonb) order by number`,
    [JSON.stringify(heads)],
  );
  await database.raw(
    `insert into entry_line (company_id, number, line, role, debit, credit, account_code)
     select company_id, number, line, role, debit, credit, account_code
       from jsonb_populate_recordset(null::entry_line, ?::jsonb)`,
    [JSON.stringify(lines)],
  );
}
