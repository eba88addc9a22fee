import type { Knex } from 'knex';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { endpoints } from '@coffer/contract';
import { connect } from '../database/connect.ts';
import { besides } from '../testing/templates.ts';
import { TestServer, type Caller } from '../testing/test-server.ts';

let server: TestServer;
/** As whoever keeps the machine, for whom no trigger holds. */
let keeper: Knex;
let [ilka, sunniva]: Caller[] = [];
beforeAll(async () => {
  server = await TestServer.start();
  keeper = connect(besides(process.env['COFFER_TEST_KEEPER'] ?? '', name()));
  [ilka, sunniva] = [await server.as('ilka'), await server.as('sunniva')];
  await corrected();
});
afterAll(async () => {
  await keeper.destroy();
  await server.stop();
});

/** Corrects what closed months reported, so that the open one books it by many accounts. */
async function corrected(): Promise<void> {
  const caller = ilka as Caller;
  const { rows } = (await caller.call('GET', '/api/register?on=2026-09-30')).body as {
    rows: { id: string; name: string }[];
  };
  const idOf = (of: string): string => rows.find((row) => row.name === of)?.id ?? '';
  const hall = idOf('Furnace hall mortgage');
  const { document, version } = (await caller.call('GET', `/api/instruments/${hall}`)).body;
  const changed = { ...document, rate: { ...document.rate, annual: '4.85%' } };
  const put = await caller.insist('PUT', `/api/instruments/${hall}`, {
    document: changed,
    version,
    reason: 'The letter says so',
  });
  expect(put.status, put.text).toBe(200);
  // Several: by which order lines come is a matter of ids, which are others in each run.
  const gone = rows.filter(({ id }) => id !== hall);
  expect(gone.length).toBeGreaterThan(8);
  for (const { id, name: of } of gone) {
    const { version: held } = (await caller.call('GET', `/api/instruments/${id}`)).body;
    const reason = 'Another company’s';
    const { status, text } = await caller.insist('POST', `/api/instruments/${id}/withdrawal`, {
      version: held,
      reason,
    });
    expect(status, `${of}: ${text}`).toBe(200);
  }
}

const name = (): string => new URL(server.url).pathname.slice(1);

/** What says when it was asked, or lies outside of the company. */
const apart = [
  'account',
  'health',
  'holidayCountries',
  'holidays',
  'session',
  'takenOnSoFar',
  'trailChecked',
];

/** Everything that can be asked of the company, by the endpoint that it is asked of, and its files of lines. */
async function questions(): Promise<readonly (readonly [of: string, path: string])[]> {
  const caller = ilka as Caller;
  const { rows } = (await caller.call('GET', '/api/register?on=2026-10-31')).body as {
    rows: { id: string }[];
  };
  const { accounts } = (await caller.call('GET', '/api/accounts')).body as { accounts: { code: string }[] };
  const span = 'from=2026-07-01&to=2026-12-31';
  return [
    ...['company', 'accounts', 'scenarios', 'rates', 'settings', 'people', 'trail'].map(
      (each) => [each, each] as const,
    ),
    ['closedDays', 'closed-days'],
    ['duePayments', 'payments'],
    ['catchUps', `catch-ups?${span}`],
    ['journal', `journal?${span}`],
    ['file', `journal.csv?${span}`],
    ['portfolio', `portfolio?${span}&by=month&show=closing`],
    ['file', `portfolio.csv?${span}&by=month&show=expense`],
    ...['2026-09-30', '2026-10-31'].map((on) => ['register', `register?on=${on}`] as const),
    ...accounts.map(({ code }) => ['broughtInto', `accounts/brought-in?code=${code}`] as const),
    ...['2026-08-31', '2026-09-30'].map((end) => ['monthCorrected', `periods/${end}/corrections`] as const),
    ...['2026-08-31', '2026-09-30', '2026-10-31'].flatMap((end) => [
      ['close', `periods/${end}/close`] as const,
      ['differences', `periods/${end}/differences`] as const,
    ]),
    ...rows.flatMap(({ id }) => [
      ['instrument', `instruments/${id}`] as const,
      ['papers', `instruments/${id}/papers`] as const,
      ['instrumentEntries', `periods/2026-10-31/close/${id}`] as const,
    ]),
  ];
}

async function answers(): Promise<ReadonlyMap<string, string>> {
  const told = new Map<string, string>();
  for (const [, path] of await questions()) {
    const { status, text } = await (sunniva as Caller).call('GET', `/api/${path}`);
    told.set(path, `${status} ${text}`);
  }
  return told;
}

/** What PostgreSQL does no more: groups by sorting and no other way, then by hashing, then from other ends. */
const bySorting = ['enable_hashagg', 'enable_hashjoin'];
const plans = [
  ['enable_sort', 'enable_mergejoin', 'enable_indexscan', 'enable_bitmapscan', 'enable_indexonlyscan'],
  ['enable_seqscan', 'enable_nestloop'],
];

/** Lets the database plan otherwise from now on, for everybody who connects. */
async function without(settings: readonly string[]): Promise<void> {
  await keeper.raw('alter database ?? reset all', [name()]);
  for (const setting of settings) await keeper.raw('alter database ?? set ?? = off', [name(), setting]);
  await keeper.raw(
    'select pg_terminate_backend(pid) from pg_stat_activity where datname = ? and usename <> ?',
    [name(), 'keeper'],
  );
  // A pool notices what was cut off when it asks for it again.
  for (let tried = 0; tried < 20; tried += 1)
    if ((await (ilka as Caller).call('GET', '/api/company')).status === 200) break;
}

/** Writes every table anew, its rows in another order, as a restore may. */
async function shuffle(): Promise<void> {
  const { rows: tables } = await keeper.raw<{ rows: { name: string; columns: string }[] }>(`
    select c.table_name as name, string_agg(quote_ident(c.column_name), ', ') as columns
      from information_schema.columns c
      join information_schema.tables t using (table_schema, table_name)
      where c.table_schema = 'public' and t.table_type = 'BASE TABLE' and c.is_generated = 'NEVER'
      group by c.table_name`);
  await keeper.transaction(async (on) => {
    await on.raw(`set local session_replication_role = replica`);
    for (const { name: table, columns } of tables) {
      await on.raw('create temporary table shuffled on commit drop as select * from ?? order by random()', [
        table,
      ]);
      await on.raw('delete from ??', [table]);
      await on.raw(`insert into ?? (${columns}) overriding system value select ${columns} from shuffled`, [
        table,
      ]);
      await on.raw('drop table shuffled');
    }
  });
}

// A relation has no order but the one that is asked for: ISO/IEC 9075-2, 4.33 (cursors without ORDER BY), from memory.
describe('what is shown, hashed and posted', () => {
  it('is asked for here, whatever can be asked', async () => {
    const asked = new Set((await questions()).map(([of]) => of));
    const gets = Object.entries(endpoints).filter(([, { method }]) => method === 'get');
    expect(gets.flatMap(([key]) => (asked.has(key) ? [] : [key])).sort()).toEqual(apart);
  });

  it('is the same however the database plans, and in whatever order its rows lie', async () => {
    await without(bySorting);
    const before = await answers();
    const failing = [...before].filter(([, text]) => !text.startsWith('200'));
    expect(failing.map(([path, text]) => `${path}: ${text.slice(0, 200)}`)).toEqual([]);
    for (const settings of plans) {
      await shuffle();
      await without(settings);
      const after = await answers();
      const other = [...before].filter(([path, text]) => after.get(path) !== text);
      expect(other.map(([path]) => path)).toEqual([]);
    }
  });

  it('is approved as it was seen, though the rows lie otherwise by then', async () => {
    await without(bySorting);
    const { body } = await (ilka as Caller).call('GET', '/api/periods/2026-10-31/close');
    const { digest } = body as { digest: string };
    await (ilka as Caller).insist('POST', '/api/periods/2026-10-31/hand-over', { digest });
    await shuffle();
    await without(plans[0] ?? []);
    const approved = await (
      await server.as('bram')
    ).insist('POST', '/api/periods/2026-10-31/approve', { digest });
    expect([approved.status, approved.text.slice(0, 300)]).toEqual([200, expect.anything()]);
  });
});
