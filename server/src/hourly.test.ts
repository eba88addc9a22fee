import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { clearOut } from './hourly.ts';
import { TestServer } from './testing/test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.stop());

describe('what is of no more use', () => {
  it('goes when its time is over, and nothing else', async () => {
    const ilka = await server.as('ilka');
    const { database } = server;
    const old = (days: number): object => ({
      person_id: 1,
      key: randomUUID(),
      request_hash: 'x',
      at: database.raw(`now() - interval '${days} days'`),
    });
    await database.raw('delete from idempotency_key');
    await database('idempotency_key').insert([old(6), old(8)] as never);
    await database('log_in_failure').insert([
      { key: 'old', at: database.raw(`now() - interval '25 hours'`) },
      { key: 'new' },
    ] as never);
    await database.raw(
      `insert into session (sid, sess, expire) values ('over', '{}', now() - interval '1 minute')`,
    );
    expect(await clearOut(database)).toEqual({ idempotency_key: 1, session: 1, log_in_failure: 1 });
    expect((await ilka.call('GET', '/api/company')).status).toBe(200);
    // One of several servers does it.
    await database.transaction(async (on) => {
      await on.raw(`select pg_advisory_xact_lock(hashtext('clear out'))`);
      expect(await clearOut(database)).toEqual({});
    });
  });
});
