import { randomBytes } from 'node:crypto';
import type { Knex } from 'knex';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { writtenSettingsOn } from '../company/settings.ts';
import { connect } from './connect.ts';
import { migrate } from './migrate.ts';

let maker: Knex;
let database: Knex;
const name = `coffer_upgrade_${randomBytes(6).toString('hex')}`;
beforeAll(async () => {
  const given = process.env['COFFER_TEST_OWNER'] ?? '';
  maker = connect(given);
  await maker.raw(`create database ${name}`);
  database = connect(given.replace(/\/[^/]*$/, `/${name}`));
});
afterAll(async () => {
  await database.destroy();
  await maker.raw(`drop database ${name}`);
  await maker.destroy();
});

/** What an installation held before people were of several companies and accounts had a chart. */
const before = `
insert into company (id, name, currency, digits, fiscal_year_end_month, books_from, last_entry_number)
  values (1, 'Ostrel', 'EUR', 2, 6, '2026-01-01', 1);
insert into person (company_id, log_in, name, role, password_hash)
  select 1, role, role, role, 'x' from unnest(array['preparer', 'reviewer', 'administrator', 'auditor']) role;
insert into log_in_failure (log_in) values ('preparer');
insert into account (company_id, role, code, name) values
  (1, 'cash', '1010', 'Cash'), (1, 'loan-payable', '2510', 'Loans'), (1, 'bonds-payable', '2510', 'Loans and bonds');
insert into period (company_id, ends_on, state, accruals) values (1, '2026-01-31', 'open', 'standing');
with made as (
  insert into instrument (company_id, name, kind, version) values (1, 'Press loan', 'debt', 1) returning id
) insert into instrument_version (instrument_id, version, document, reason)
  select id, 1, '{"name": "Press loan"}', 'Taken on' from made;
insert into entry (company_id, number, period_end, date, kind, memo, instrument_id, instrument_version)
  select 1, 1, '2026-01-31', '2026-01-15', 'issue', 'x', id, 1 from instrument;
insert into entry_line (company_id, number, line, role, debit, credit) values
  (1, 1, 1, 'cash', 500, 0), (1, 1, 2, 'loan-payable', 0, 500);
insert into audit_event (company_id, person_id, action, subject, detail) values (1, 1, 'log-in', 'x', '{}');
`;

describe('an installation of before', () => {
  it('keeps its people, their rights, its accounts and its books in the newest form', async () => {
    await migrate(database, '0010-funds');
    await database.transaction((on) => on.raw(before));
    await migrate(database);
    const members = await database('member').orderBy('person_id').select('role', 'suspended_at');
    expect(members.map(({ role }) => role)).toEqual([['prepare'], ['review'], ['prepare', 'administer'], []]);
    const chart = await database('account').orderBy('code').select('code');
    expect(chart.map(({ code }) => code)).toEqual(['1010', '2510']);
    expect(await database('account_of_role').orderBy('role').select('role', 'code')).toEqual([
      { role: 'bonds-payable', code: '2510' },
      { role: 'cash', code: '1010' },
      { role: 'loan-payable', code: '2510' },
    ]);
    const lines = await database('entry_line').orderBy('line').select('account_code', 'debit', 'credit');
    expect(lines).toEqual([
      { account_code: '1010', debit: 500, credit: 0 },
      { account_code: '2510', debit: 0, credit: 500 },
    ]);
    // What became of accruals goes on as it was chosen.
    expect((await writtenSettingsOn(database, 1, '2025-12-31')).accruals).toBe('reversed');
    expect((await writtenSettingsOn(database, 1, '2026-02-01')).accruals).toBe('standing');
    // Another company gets an id of its own, and the guards hold as in a new installation.
    const [made] = await database('company')
      .insert({
        name: 'Second',
        currency: 'EUR',
        digits: 2,
        fiscal_year_end_month: 12,
        books_from: '2026-01-01',
      })
      .returning('id');
    expect(made?.id).toBe(2);
    await expect(database('entry_line').update({ debit: 1 })).rejects.toMatchObject({ code: 'CF002' });
    await expect(database('member').where({ person_id: 3 }).update({ role: [] })).rejects.toMatchObject({
      code: 'CF006',
    });
    // The chain of the audit trail goes on from what it was: with what was sealed as found, and the second company.
    await database('audit_event').insert({
      company_id: null,
      person_id: null,
      action: 'log-in-failed',
      subject: 'x',
      detail: '{}',
    });
    const { rows } = await database.raw(`
      select bool_and(hash = sha256(previous_hash || convert_to(concat_ws(E'\\x1f', id, coalesce(company_id::text, 'installation'), extract(epoch from at), coalesce(person_id::text, 'nobody'), action, subject, detail), 'UTF8'))) as whole,
        count(*)::int as many from audit_event`);
    expect(rows[0]).toEqual({ whole: true, many: 4 });
  });
});
