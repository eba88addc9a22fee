import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { TestServer } from '../testing/test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.stop());

const refused = (sql: string): Promise<unknown> => server.database.transaction((on) => on.raw(sql));

describe('the role of the application', () => {
  // What its own credentials allow it: nothing by which closed months or the trail could be changed unnoticed.
  // 42501: insufficient privilege; 42P01 and 0A000 would be mistakes of this test (PostgreSQL, appendix A).
  it.each([
    'alter table audit_event disable trigger all',
    'alter table entry disable trigger entry_append_only',
    'drop trigger audit_event_append_only on audit_event',
    'set session_replication_role = replica',
    'create or replace function reject_change() returns trigger language plpgsql as $$ begin return new; end $$',
    'truncate audit_event',
    'delete from audit_event',
    `update audit_event set detail = '{}'`,
    'delete from entry_line',
    'update left_out set amount = 1',
    `update told_at_close set told = '{}'`,
    'update entry_line set debit = 0',
    'update reported_position set expense = 0',
    'update instrument_version set reason = reason',
    'delete from setting',
    'delete from seal',
    `insert into seal (of_table, key, sealing) values ('entry', '1 1 1', sealing())`,
    'delete from period_step',
    'delete from company',
    'update company set made_in = pg_current_xact_id()',
    'delete from person',
    'delete from period',
    'drop table audit_event',
    'alter table entry rename to entry_of_mine',
    'create table mine (a int)',
    'create temporary table period (company_id int, ends_on date, state text)',
    'create temporary view entry as select 1',
    `insert into migration (name) values ('x')`,
    'alter role coffer superuser',
    'create role another',
    'set role coffer_owner',
    `copy (select 1) to program 'true'`,
  ])('refuses the application itself: %s', async (sql) => {
    await expect(refused(sql)).rejects.toMatchObject({ code: '42501' });
  });

  it('looks for what it names where nobody can put something in front of it', async () => {
    const { rows } = await server.database.raw(
      `select oid::regprocedure::text as name, proconfig::text as config from pg_proc
       where pronamespace = 'public'::regnamespace`,
    );
    expect(rows.length).toBeGreaterThan(17);
    for (const { name, config } of rows)
      expect([name, config]).toEqual([
        name,
        expect.stringMatching(/^\{"search_path=pg_catalog, public, pg_temp"[,}]/),
      ]);
  });

  it('gives the application a role that owns nothing and makes nothing', async () => {
    const { rows } = await server.database.raw<{ rows: object[] }>(
      `select rolsuper or rolcreatedb or rolcreaterole or rolbypassrls or rolreplication as more,
         exists (select from pg_class where relowner = pg_roles.oid) as owns,
         exists (select from pg_auth_members where member = pg_roles.oid) as member
       from pg_roles where rolname = current_user`,
    );
    expect(rows).toEqual([{ more: false, owns: false, member: false }]);
  });

  it('gives the application no table that its rights were not thought of for', async () => {
    const { rows } = await server.database.raw<{ rows: { name: string; rights: string }[] }>(
      `select table_name as name, string_agg(lower(privilege_type), ' ' order by privilege_type) as rights
       from information_schema.role_table_grants where grantee = 'coffer' and table_schema = 'public' group by 1`,
    );
    const rights = new Map(rows.map(({ name, rights: of }) => [name, of]));
    const added = [
      'audit_event',
      'entry',
      'entry_line',
      'fixing',
      'instrument_version',
      'period_comment',
    ].concat(['period_step', 'left_out', 'reported_fund', 'reported_position', 'setting', 'told_at_close']);
    expect(rights.get('seal')).toBe('select');
    for (const name of added) expect([name, rights.get(name)]).toEqual([name, 'insert select']);
    const { rows: tables } = await server.database.raw<{ rows: { name: string }[] }>(
      `select tablename as name from pg_tables where schemaname = 'public' and tablename <> 'migration_lock'`,
    );
    expect([...rights.keys()].sort()).toEqual(tables.map(({ name }) => name).sort());
  });
});
