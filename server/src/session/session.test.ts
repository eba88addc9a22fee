import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { passwords, TestServer } from '../testing/test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.stop());

describe('logging in', () => {
  it('keeps the session in a cookie that scripts cannot read, and the password nowhere', async () => {
    const caller = server.caller();
    const answer = await caller.logIn('Ilka', passwords.ilka);
    expect(answer.status).toBe(200);
    const session = answer.headers.getSetCookie().find((cookie) => cookie.startsWith('coffer-'));
    expect(session).toMatch(/HttpOnly/);
    expect(session).toMatch(/SameSite=Strict/);
    expect((await caller.call('GET', '/api/session')).body.person).toMatchObject({
      logIn: 'ilka',
      companies: [{ id: 1, name: 'Ostrel Glassworks', role: ['prepare'] }],
    });
    const { rows } = await server.database.raw('select password_hash from person');
    for (const { password_hash: hash } of rows) expect(hash).toMatch(/^\$argon2id\$/);
  });

  it('answers alike for a wrong password and an unknown name', async () => {
    const wrong = await server.caller().logIn('bram', 'not it');
    const unknown = await server.caller().logIn('nobody', 'not it');
    expect([wrong.status, unknown.status]).toEqual([401, 401]);
    expect(wrong.body.error.message).toBe(unknown.body.error.message);
  });

  it('judges no more than ten of a hundred guesses that come at once', async () => {
    const guesses = Array.from({ length: 100 }, (_, at) => server.caller().logIn('guessed', `guess ${at}`));
    const answers = (await Promise.all(guesses)).map(({ status }) => status);
    const many = (wanted: number): number => answers.filter((status) => status === wanted).length;
    // On a machine that stands still some get no connection in time and are told so: they are not judged either.
    expect(many(401) + many(429) + many(503)).toBe(100);
    expect(many(401)).toBeLessThanOrEqual(10);
    if (many(503) === 0) expect(many(401)).toBe(10);
  });

  it('is refused after ten failures, with the right password too, and says until when', async () => {
    for (let attempt = 0; attempt < 10; attempt += 1) {
      expect((await server.caller().logIn('tobiah', `guess ${attempt}`)).status).toBe(401);
    }
    const locked = await server.caller().logIn('tobiah', passwords.tobiah);
    expect(locked.status).toBe(429);
    expect(locked.body.error.message).toMatch(/failed too often from here. Wait 15 minutes/);
    expect((await server.caller().logIn('bram', passwords.bram)).status).toBe(200);
  });

  it('goes on in the browser in which a person has logged in before, whatever others try by the name', async () => {
    const known = await server.as('sunniva');
    await known.call('DELETE', '/api/session');
    for (let attempt = 0; attempt < 10; attempt += 1) {
      await server.caller().logIn('sunniva', `guess ${attempt}`);
    }
    expect((await server.caller().logIn('sunniva', passwords.sunniva)).status).toBe(429);
    expect((await known.logIn('sunniva', passwords.sunniva)).status).toBe(200);
    // In that browser, too, ten are judged and no more.
    for (let attempt = 0; attempt < 10; attempt += 1) {
      expect((await known.logIn('sunniva', `guess ${attempt}`)).status).toBe(401);
    }
    expect((await known.logIn('sunniva', passwords.sunniva)).status).toBe(429);
  });

  it('goes on in a known browser while strangers wait for one another, however many they are', async () => {
    await server.database('log_in_failure').delete();
    const known = await server.as('ilka');
    await known.call('DELETE', '/api/session');
    const strangers = Array.from({ length: 60 }, (_, at) => server.caller().logIn(`stranger-${at}`, 'any'));
    const entered = await known.logIn('ilka', passwords.ilka);
    expect(entered.status, entered.text).toBe(200);
    const statuses = new Set((await Promise.all(strangers)).map(({ status }) => status));
    for (const status of statuses) expect([401, 429]).toContain(status);
    expect(statuses).toContain(429);
    await server.database('log_in_failure').delete();
  });

  it('ends with the log-out', async () => {
    const caller = await server.as('ilka');
    expect((await caller.call('DELETE', '/api/session')).status).toBe(200);
    expect((await caller.call('GET', '/api/company')).status).toBe(401);
  });

  it('leaves no row of who only visits', async () => {
    const many = async (): Promise<string> =>
      (await server.database.raw('select count(*) as many from session')).rows[0].many;
    const before = await many();
    const caller = server.caller();
    await caller.call('GET', '/api/session');
    await caller.call('GET', '/api/company');
    expect(await many()).toBe(before);
  });

  it('ends two hours after it was last used, and twelve hours after it began', async () => {
    const idle = await server.as('bram');
    const age = (key: string, by: string): string =>
      `update session set ${key} where sess ->> 'personId' = (select id::text from person where log_in = '${by}')`;
    const [cookie] = (await idle.call('GET', '/api/company')).headers.getSetCookie();
    const ends = new Date(/Expires=([^;]+)/.exec(cookie ?? '')?.[1] ?? '').getTime();
    expect(Math.abs(ends - Date.now() - 2 * 3_600_000)).toBeLessThan(60_000);
    await server.database.raw(age(`expire = now() - interval '1 second'`, 'bram'));
    expect((await idle.call('GET', '/api/company')).status).toBe(401);
    // Who saves after it has ended is told so, and logs in elsewhere to go on.
    const late = await idle.call('POST', '/api/scenarios', { name: 'Late', changes: [] });
    expect([late.status, late.body.error.code]).toEqual([401, 'session-ended']);
    const old = await server.as('bram');
    const began = Date.now() - 12 * 3_600_000 - 1000;
    await server.database.raw(age(`sess = jsonb_set(sess::jsonb, '{startedAt}', '${began}')::json`, 'bram'));
    expect((await old.call('GET', '/api/company')).status).toBe(401);
  });

  it('survives a restart, as sessions are kept in the database', async () => {
    const caller = await server.as('ilka');
    await caller.call('GET', '/api/company');
    const { rows } = await server.database.raw(
      `select count(*) as many from session where sess -> 'personId' is not null`,
    );
    expect(Number(rows[0].many)).toBeGreaterThan(0);
  });
});

describe('what a call must carry', () => {
  it('is refused without a session, without the anti-forgery token, or with another’s', async () => {
    expect((await server.caller().call('GET', '/api/register?on=2026-10-31')).body.error.code).toBe(
      'not-logged-in',
    );
    const caller = await server.as('ilka');
    const other = server.caller();
    await other.call('GET', '/api/session');
    for (const token of ['', 'x'.repeat(32), 'short']) {
      const answer = await caller.call(
        'POST',
        '/api/instruments',
        { document: {} },
        { 'x-xsrf-token': token },
      );
      expect([answer.status, answer.body.error.code]).toEqual([403, 'anti-forgery']);
    }
  });

  it('lets readers read and change nothing', async () => {
    const caller = await server.as('bram');
    expect((await caller.call('GET', '/api/register?on=2026-10-31')).status).toBe(200);
    for (const [method, path] of [
      ['POST', '/api/instruments'],
      ['POST', '/api/periods/2026-10-31/lock'],
    ] as const) {
      const answer = await caller.call(method, path, {});
      expect([answer.status, answer.body.error.code]).toEqual([403, 'not-allowed']);
    }
  });

  it('is small, JSON, and to an address that there is', async () => {
    const caller = await server.as('ilka');
    const large = await caller.call(
      'POST',
      '/api/instruments',
      JSON.stringify({ document: 'x'.repeat(5_000_000) }),
    );
    expect([large.status, large.body.error.code]).toEqual([413, 'too-large']);
    const broken = await caller.call('POST', '/api/instruments', '{ "document": ');
    expect([broken.status, broken.body.error.code]).toEqual([400, 'not-json']);
    expect((await caller.call('GET', '/api/nowhere')).body.error.message).toMatch(/GET \/api\/nowhere/);
    expect((await caller.call('GET', '/api/register?on=2026-02-30')).body.error.faults).toEqual([
      { key: 'on', message: 'Found "2026-02-30"; there is no such date.' },
    ]);
    const odd = await caller.call('GET', '/api/instruments/%E0%A4%A');
    expect(odd.status).toBe(400);
    for (const answer of [large, broken, odd]) expect(answer.text).not.toMatch(/\bat .*\.ts|node_modules/);
  });
});

describe('what every answer carries', () => {
  it('is the content-security-policy and its company', async () => {
    const { headers } = await server.caller().call('GET', '/api/health');
    const policy = headers.get('content-security-policy') ?? '';
    expect(policy).toContain("default-src 'self'");
    expect(policy).toContain("script-src 'self';");
    expect(policy).toContain("frame-ancestors 'none'");
    expect(headers.get('x-content-type-options')).toBe('nosniff');
    expect(headers.get('x-powered-by')).toBeNull();
  });

  it('describes itself by OpenAPI', async () => {
    const caller = await server.as('ilka');
    const { body } = await caller.call('GET', '/api');
    expect(body.openapi).toBe('3.1.0');
    expect(Object.keys(body.paths)).toEqual(
      expect.arrayContaining(['/api/register', '/api/periods/{endsOn}/lock', '/api/journal.xlsx']),
    );
  });
});
