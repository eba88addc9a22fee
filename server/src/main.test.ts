import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, openSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { migrate } from './database/migrate.ts';
import { freePort } from './testing/free-port.ts';
import { Caller, passwords, TestServer } from './testing/test-server.ts';

let server: TestServer;
let started: ChildProcess | undefined;
beforeEach(async () => {
  server = await TestServer.start();
});
afterEach(async () => {
  if (started?.exitCode === null) {
    const ended = new Promise((resolve) => started?.once('exit', resolve));
    started.kill('SIGTERM');
    await ended;
  }
  await server.stop();
});

/** Starts the built application on the test's database, writing its log where it is told. */
function start(port: number, stdout: number | 'ignore' = 'ignore'): ChildProcess {
  started = spawn(process.execPath, [fileURLToPath(new URL('../../dist/server.mjs', import.meta.url))], {
    env: { COFFER_DATABASE: server.url, COFFER_PORT: String(port), COFFER_SECRET: 'x'.repeat(40) },
    stdio: ['ignore', stdout, 'pipe'],
  });
  return started;
}

async function answer(port: number, path: string): Promise<number> {
  for (let tried = 0; tried < 100; tried += 1) {
    try {
      return (await fetch(`http://127.0.0.1:${port}${path}`)).status;
    } catch {
      await setTimeout(100);
    }
  }
  throw new Error('The application does not answer.');
}

describe('the application in a place that fails it', () => {
  // /dev/full answers each write as a full disk does (Linux, full(4)).
  it('loses its log on a full disk, and no call', async () => {
    const port = await freePort();
    const running = start(port, openSync('/dev/full', 'w'));
    for (let call = 0; call < 30; call += 1) {
      expect(await answer(port, call % 2 === 0 ? '/api/health' : '/api/nowhere')).not.toBe(500);
    }
    expect(running.exitCode).toBeNull();
  });

  it('writes no password, cookie or token into its log', async () => {
    const port = await freePort();
    const file = join(mkdtempSync(join(tmpdir(), 'coffer-log-')), 'log');
    start(port, openSync(file, 'w'));
    expect(await answer(port, '/api/health')).toBe(200);
    const caller = new Caller(`http://127.0.0.1:${port}`);
    expect((await caller.logIn('ilka', 'wrong-password-9')).status).toBe(401);
    const entered = await caller.logIn('ilka', passwords.ilka);
    expect((await caller.call('GET', '/api/company')).status).toBe(200);
    const cookies = entered.headers.getSetCookie().map((cookie) => /=([^;]+)/.exec(cookie)?.[1] ?? '');
    const log = readFileSync(file, 'utf8');
    expect(log).toContain('/api/company');
    for (const secret of ['wrong-password-9', passwords.ilka, ...cookies, ...cookies.map(decodeURIComponent)])
      expect(log.includes(secret), secret).toBe(false);
  });

  it.each([
    [
      'newer',
      `insert into migration (name, batch, migration_time) values ('9999-to-come', 99, now())`,
      'newer form (9999-to-come)',
    ],
    ['not of its form', `delete from migration where name like '0018%'`, '0018-runtime-role is missing'],
  ])('says in a sentence that the database is %s', async (_, sql, said) => {
    await server.owned.raw(sql);
    const stopped = start(await freePort());
    let told = '';
    stopped.stderr?.on('data', (part) => (told += String(part)));
    expect(await new Promise((resolve) => stopped.once('exit', resolve))).toBe(3);
    expect(told).toContain(said);
    expect(told.trim().split('\n')).toHaveLength(1);
  });

  it.each([0, 5, 40, 150])(
    'ends once a lock is through that began %i ms before it was told to',
    async (before) => {
      await server.alone();
      const port = await freePort();
      const running = start(port);
      expect(await answer(port, '/api/health')).toBe(200);
      const caller = new Caller(`http://127.0.0.1:${port}`);
      await caller.logIn('ilka', passwords.ilka);
      const confirm = ['month-not-ended', 'payments-unrecorded', 'fixings-missing'];
      const lock = caller.call('POST', '/api/periods/2026-10-31/lock', { confirm });
      await setTimeout(before);
      const ended = new Promise((resolve) => running.once('exit', resolve));
      running.kill('SIGTERM');
      const answered = await lock.then(
        ({ status }) => status,
        // The call came when nobody listened any more.
        () => 'never begun',
      );
      expect(await ended).toBe(0);
      const period = await server
        .database('period')
        .where({ company_id: 1, ends_on: '2026-10-31' })
        .first('state');
      expect([answered, period?.state]).toEqual(answered === 200 ? [200, 'closed'] : ['never begun', 'open']);
      expect(await server.disagreements()).toEqual([]);
    },
  );

  it('brings a database up to date past a lock that a start left behind when it was broken off', async () => {
    await server.owned.raw('update migration_lock set is_locked = 1');
    await Promise.all([migrate(server.owned), migrate(server.owned)]);
  });
});
