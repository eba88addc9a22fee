import type { Knex } from 'knex';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { connect } from '../database/connect.ts';
import { besides } from '../testing/templates.ts';
import { TestServer, type Answer, type Caller } from '../testing/test-server.ts';

let server: TestServer;
let keeper: Knex;
let ilka: Caller;
const name = (): string => new URL(server.url).pathname.slice(1);
beforeAll(async () => {
  server = await TestServer.start();
  keeper = connect(besides(process.env['COFFER_TEST_KEEPER'] ?? '', name()));
  ilka = await server.as('ilka');
});
afterAll(async () => {
  await keeper.destroy();
  await server.stop();
});

/** What a call is answered whose connection is cut while it waits for a table. */
async function cutOff(table: string, call: () => Promise<Answer>): Promise<Answer> {
  return keeper.transaction(async (holding) => {
    await holding.raw('lock table ?? in access exclusive mode', [table]);
    const answer = call();
    for (;;) {
      const { rows } = await keeper.raw<{ rows: { pid: number }[] }>(
        `select pid from pg_stat_activity where datname = ? and usename = 'coffer' and wait_event_type = 'Lock'`,
        [name()],
      );
      for (const { pid } of rows) await keeper.raw('select pg_terminate_backend(?)', [pid]);
      if (rows.length > 0) return answer;
    }
  });
}

// A commit whose answer is lost may have been done: the two generals (Gray, 1978), from memory.
describe('a database that goes away', () => {
  const comment = (): Promise<Answer> =>
    ilka.call('POST', '/api/periods/2026-10-31/comments', { text: 'Looked through.' });

  it('in the middle of a change leaves open whether that was done, and says what to do', async () => {
    const { status, body } = await cutOff('period_comment', comment);
    expect([status, body.error.code]).toEqual([503, 'not-known']);
    expect(body.error.message).toMatch(/not known whether this was done.*under the same key/);
  });

  it('while something is only asked for changed nothing, and says no more', async () => {
    const { status, body } = await cutOff('account', () => ilka.call('GET', '/api/accounts'));
    expect([status, body.error.code]).toEqual([503, 'no-database']);
  });
});
