import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { Knex } from 'knex';
import { pino } from 'pino';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { wrongTrail } from '../audit/trail.ts';
import { connect } from '../database/connect.ts';
import { notOfForm } from '../database/migrate.ts';
import { loan, payments, PlayedBooks } from '../testing/played-books.ts';
import { png } from '../testing/small-files.ts';
import { besides } from '../testing/templates.ts';
import type { Caller } from '../testing/test-server.ts';
import { FigureThreads } from '../workers/figure-threads.ts';
import { verifyCompany } from './verify-books.ts';
import { wrongSeals } from './wrong-seals.ts';

const read = (path: string): string => readFileSync(new URL(`../../../${path}`, import.meta.url), 'utf8');
const workersFolder = fileURLToPath(new URL('../../../dist', import.meta.url));
const figures = new FigureThreads(workersFolder, pino({ level: 'silent' }));

let books: PlayedBooks;
/** As whoever keeps the machine, for whom no trigger and no foreign key holds. */
let keeper: Knex;
beforeAll(async () => {
  books = await PlayedBooks.start();
  await filled();
  const { COFFER_TEST_KEEPER: cluster = '' } = process.env;
  keeper = connect(besides(cluster, new URL(books.server.url).pathname.slice(1)));
});
afterAll(async () => {
  await keeper.destroy();
  await figures.end();
  expect(await books.end()).toEqual([]);
});

/** Two closed months, with something in every table. */
async function filled(): Promise<void> {
  const { server, preparer } = books;
  const sunniva = await server.as('sunniva');
  const insist = async (who: Caller, path: string, body: object): Promise<void> => {
    const { status, text } = await who.insist('POST', path, body);
    if (status !== 200) throw new Error(`${path}: ${text}`);
  };
  const settings = { materiality: { each: 50, sum: 100 } };
  await insist(sunniva, '/api/settings', { settings, from: '2026-01-01', reason: 'Policy' });
  const id = await books.takeOn(loan());
  await books.takeOn(loan({ name: 'Small', amount: '100.00', ...payments('2026-03-10', 12) }));
  await books.takeOn(fund);
  await books.pay(id, '2026-02-10', '2026-02-10', '8600.00', 'insist');
  await preparer.sendFile(`/api/instruments/${id}/papers?name=Letter.png`, png);
  const events = [{ type: 'extra-payment', on: '2026-03-15', amount: '500.00' }];
  const changes = [{ instrumentId: id, version: 2, events }];
  await insist(preparer, '/api/scenarios', { name: 'Sooner', changes });
  await insist(preparer, '/api/periods/2026-01-31/comments', { instrumentId: id, text: 'Looked through.' });
  await insist(sunniva, '/api/people/invitations', { logIn: 'maren', name: 'Maren Holt', role: ['review'] });
  await server.caller().logIn('ilka', 'wrong');
  await server.owned.raw(rest);
  await books.lock('2026-01-31', '2026-02-28');
}

const fund = {
  ...{ document: 'coffer.instrument/1', kind: 'fund', name: 'A fund', for: 'Loan', currency: 'EUR' },
  ...{ goal: '90000.00', rate: { annual: '2.4%', dayCount: 'ACT/365F' } },
  ...{ every: 'month', first: '2026-01-10', count: 12 },
};

/** What no call of these months makes. */
const rest = `
  insert into account_of_instrument (company_id, instrument_id, role, code)
    select company_id, id, 'cash', '1010' from instrument where name = 'Loan';
  insert into ledger_balance (company_id, code, balance) values (1, '1010', 0);
  insert into rate_index (company_id, name, key) values (1, 'Norbay', 'norbay');
  insert into fixing (index_id, on_day, rate, source, reason)
    select id, '2026-01-01', '2%', 'typed', 'x' from rate_index where company_id = 1 limit 1;
  insert into second_factor (person_id, secret, since) select id, '\\x01', now() from person where log_in = 'bram';
  insert into recovery_code (person_id, hash) select id, '\\x01' from person where log_in = 'bram'`;

/** What of the database need not be noticed, and why: a line each in docs/security.md. */
const leftOut: ReadonlySet<string> = new Set(
  [...read('docs/security.md').matchAll(/^\| `([a-z_]+)`: (.+?) \|/gm)].flatMap(
    ([, table = '', columns = '']) =>
      [...columns.matchAll(/`([a-z_]+)`/g)].map(([, column = '']) => `${table}.${column}`),
  ),
);

/** What a cell that holds something is made into, by type; a cell that holds nothing is given something. */
const others: Readonly<Record<string, readonly [other: string, given: string]>> = {
  bool: ['not cell', 'true'],
  bpchar: [`'NOK'`, `'NOK'`],
  bytea: ['set_byte(cell, 0, get_byte(cell, 0) # 1)', `'\\x01'`],
  date: ['cell + 1', `'2026-01-31'`],
  int2: ['cell + 1000', '1'],
  int4: ['cell + 1000', '1'],
  int8: ['cell + 1000', '1'],
  json: [`'{}'::json`, `'{}'`],
  jsonb: [`jsonb_build_array(cell)`, `'{}'`],
  text: [`cell || 'x'`, `'x'`],
  timestamptz: [`cell + interval '1 microsecond'`, 'now()'],
  uuid: ['gen_random_uuid()', 'gen_random_uuid()'],
  varchar: [`cell || 'x'`, `'x'`],
  xid8: ['pg_current_xact_id()', 'pg_current_xact_id()'],
  _text: [`cell || '{}'::text[] || 'x'::text`, `array['x']`],
};

interface Column {
  readonly of: string;
  readonly name: string;
  readonly type: string;
}

/** Whoever owns the database drops what is in their way as well. */
const unchecked = (of: string): string => `
  do $$ declare found record; begin
    for found in select conname from pg_constraint where conrelid = '${of}'::regclass and contype = 'c' loop
      execute format('alter table ${of} drop constraint %I', found.conname);
    end loop;
    for found in select attname from pg_attribute where attrelid = '${of}'::regclass and attidentity <> '' loop
      execute format('alter table ${of} alter column %I drop identity', found.attname);
    end loop;
    execute 'alter domain minor_units drop constraint minor_units_check';
  end $$`;

/** What is found once a statement has changed one row past every guard; it is taken back again. */
async function foundAfter(of: string, statement: string): Promise<string[]> {
  const on = await keeper.transaction();
  try {
    await on.raw(unchecked(of));
    await on.raw('set local session_replication_role = replica');
    const { rowCount } = await on.raw<{ rowCount: number }>(statement);
    expect(rowCount, statement).toBe(1);
    await on.raw('set local session_replication_role = origin');
    const found = [...(await wrongSeals(on)).map(({ message }) => message), ...(await wrongTrail(on))];
    if (found.length > 0) return found;
    const unfit = await notOfForm(on);
    if (unfit !== undefined) return [unfit];
    const ids = await on('company').pluck<number[]>('id');
    const wrong = await Promise.all(ids.map((id) => verifyCompany(on, figures, id)));
    return wrong.flat().map(({ message }) => message);
  } finally {
    await on.rollback();
  }
}

/** The row that a column is changed in: the last that holds something there. */
const row = ({ of, name }: Column): string =>
  `ctid = (select ctid from ${of} order by "${name}" is null, ctid desc limit 1)`;

const columns = async (): Promise<Column[]> => {
  const { rows } = await keeper.raw<{ rows: Column[] }>(
    `select table_name as of, column_name as name, udt_name as type from information_schema.columns
     where table_schema = 'public' order by table_name, ordinal_position`,
  );
  return rows;
};

describe('whoever keeps the database', () => {
  it('changes a cell of no column unnoticed, but of those that docs/security.md tells of', async () => {
    const unnoticed: string[] = [];
    const all = await columns();
    for (const column of all) {
      const cell = `"${column.name}"`;
      const [other, given] = others[column.type] ?? [];
      if (other === undefined) throw new Error(`Nothing is made of a ${column.type}.`);
      const changed = `case when ${cell} is null then ${given} else ${other.replaceAll('cell', cell)} end`;
      const found = await foundAfter(
        column.of,
        `update ${column.of} set ${cell} = ${changed} where ${row(column)}`,
      );
      if (found.length === 0) unnoticed.push(`${column.of}.${column.name}`);
    }
    expect(unnoticed.sort()).toEqual([...leftOut].sort());
    expect(all.length).toBeGreaterThan(230);
  });

  it('takes no row away unnoticed, but of tables that it tells of', async () => {
    const all = await columns();
    const wholly = (table: string): boolean =>
      all.every(({ of, name }) => of !== table || leftOut.has(`${of}.${name}`));
    const [unnoticed, expected]: [string[], string[]] = [[], []];
    for (const column of all.filter(({ of }, at) => all[at - 1]?.of !== of)) {
      const found = await foundAfter(column.of, `delete from ${column.of} where ${row(column)}`);
      if (found.length === 0) unnoticed.push(column.of);
      if (wholly(column.of)) expected.push(column.of);
    }
    expect(unnoticed).toEqual(expected);
  });

  // The seals are left on, and only what refuses the change is switched off.
  it('changes nothing that never changes unnoticed, though it be sealed anew', async () => {
    const on = await keeper.transaction();
    await on.raw('alter table setting disable trigger setting_append_only');
    await on.raw(`update setting set reason = 'Other' where reason = 'Policy'`);
    await on.raw('set constraints all immediate');
    expect(await on('audit_event').orderBy('id', 'desc').first('action')).toEqual({ action: 'sealed' });
    const found = (await wrongSeals(on)).map(({ message }) => message);
    expect(found).toEqual([
      expect.stringMatching(/^The setting \d+: sealed more than once, though it never changes/),
    ]);
    await on.rollback();
  });

  it('has the application’s role seal nothing that no event tells of', async () => {
    const on = await books.server.database.transaction();
    await on.raw(`insert into account (company_id, code, name) values (1, '99', 'Mine')`);
    await on.raw(`select set_config('coffer.sealing', '', true)`);
    await on.raw('set constraints all immediate');
    const found = (await wrongSeals(on)).map(({ message }) => message);
    expect(found).toEqual([
      expect.stringMatching(/^The seal [0-9a-f-]{36}: no event of the audit trail tells of it/),
    ]);
    await on.rollback();
  });

  it.each([
    [
      'entry',
      `update entry set memo = 'other' where company_id = 1 and number = 2`,
      /^The entries 1 to \d+: changed otherwise than by Coffer after 20\d\d-\d\d-\d\d at \d\d:\d\d UTC\.$/,
    ],
    [
      'instrument_version',
      `update instrument_version set made_by = null where version = 2 and reason <> 'Taken on'
         and instrument_id = (select id from instrument where name = 'Loan' and company_id = 1)`,
      /^The version of an instrument Loan 2: changed otherwise/,
    ],
    [
      'member',
      `update member set role = '{review}' where person_id = (select id from person where log_in = 'ilka')`,
      /^The role of Ilka Varga: changed otherwise/,
    ],
    [
      'period',
      `delete from period where state = 'open' and company_id = 1`,
      /^The month 2026-03-31: taken away otherwise/,
    ],
    [
      'account',
      `insert into account (company_id, code, name) values (1, '99', 'Mine')`,
      /^The account 99: put there otherwise/,
    ],
  ])('is told what is wrong with a row of %s', async (of, statement, message) => {
    expect(await foundAfter(of, statement)).toContainEqual(expect.stringMatching(message));
  });
});
