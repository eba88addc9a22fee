import { createHmac } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { passwords, TestServer, type Answer, type Caller } from '../testing/test-server.ts';
import { timeCode, wrongSecret } from './second-factor.ts';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.stop());

const letters = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567';

/** A code as RFC 4226, 5.3 and RFC 6238, 4.2 make it, step by step. */
function codeAt(base32: string, seconds: number): string {
  const bits = [...base32].map((letter) => letters.indexOf(letter).toString(2).padStart(5, '0')).join('');
  const bytes = bits.match(/.{8}/g)?.map((byte) => Number.parseInt(byte, 2)) ?? [];
  const counter = Buffer.alloc(8);
  counter.writeBigUInt64BE(BigInt(Math.floor(seconds / 30)));
  const hash = createHmac('sha1', Buffer.from(bytes)).update(counter).digest();
  const offset = (hash.at(-1) ?? 0) & 15;
  return String((hash.readUInt32BE(offset) & 0x7fffffff) % 1_000_000).padStart(6, '0');
}
const now = (): number => Date.now() / 1000;
const next = 'otter lantern gravel pine';

describe('time codes', () => {
  // RFC 6238, appendix B, SHA-1: the last six of its eight digits. The secret is "12345678901234567890".
  it.each([
    [59, '287082'],
    [1_111_111_109, '081804'],
    [1_111_111_111, '050471'],
    [1_234_567_890, '005924'],
    [2_000_000_000, '279037'],
    [20_000_000_000, '353130'],
  ])('are those of the standard at %i seconds', (seconds, code) => {
    const secret = 'GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ';
    expect(timeCode(secret, 'x').generate({ timestamp: seconds * 1000 })).toBe(code);
    expect(codeAt(secret, seconds)).toBe(code);
  });
});

describe('one’s own password', () => {
  it('is changed by who knows it, to one that is long and not common, and ends all other sessions', async () => {
    const mine = await server.as('bram');
    const elsewhere = await server.as('bram');
    const change = async (from: string, to: string): Promise<[number, string]> => {
      const { status, body } = await mine.call('PUT', '/api/account/password', { now: from, next: to });
      return [status, body.error?.faults?.[0]?.message ?? ''];
    };
    expect(await change('not it at all', next)).toEqual([422, 'This is not your password.']);
    expect(await change(passwords.bram, 'short')).toEqual([
      422,
      expect.stringMatching(/at least 12 characters/),
    ]);
    for (const common of ['password1234', 'bramosterhout', 'OstrelGlassworks']) {
      expect(await change(passwords.bram, common)).toEqual([
        422,
        expect.stringMatching(/first that anybody/),
      ]);
    }
    for (const printed of Object.values(passwords).slice(0, 4)) {
      expect(await change(passwords.bram, printed)).toEqual([
        422,
        expect.stringMatching(/password of the demo/),
      ]);
    }
    expect((await elsewhere.call('GET', '/api/company')).status).toBe(200);
    expect(await change(passwords.bram, next)).toEqual([200, '']);
    expect((await elsewhere.call('GET', '/api/company')).status).toBe(401);
    expect((await mine.call('GET', '/api/company')).status).toBe(200);
    expect((await server.caller().logIn('bram', passwords.bram)).status).toBe(401);
    expect((await server.caller().logIn('bram', next)).status).toBe(200);
  });
});

describe('one’s own sessions', () => {
  it('are listed with where they are, and ended one by one or all others', async () => {
    const [one, two, three] = await Promise.all(['a', 'b', 'c'].map(() => server.as('tobiah')));
    const { sessions } = (await one?.call('GET', '/api/account'))?.body ?? {};
    expect(sessions).toHaveLength(3);
    expect(sessions.filter(({ current }: { current: boolean }) => current)).toHaveLength(1);
    // What a session is called opens it not.
    const { rows } = await server.database.raw('select sid from session');
    for (const { sid } of rows) expect(JSON.stringify(sessions)).not.toContain(sid);
    const other = (await two?.call('GET', '/api/account'))?.body.sessions.find(
      ({ current }: { current: boolean }) => current,
    );
    const end = async (
      by: Caller | undefined,
      more: object,
      password: string = passwords.tobiah,
    ): Promise<Answer> => (by as Caller).call('POST', '/api/account/sessions/ended', { password, ...more });
    expect((await end(one, { session: other.id }, 'not the one')).status).toBe(422);
    expect((await end(one, { session: other.id })).status).toBe(200);
    expect((await end(one, { session: other.id })).status).toBe(404);
    expect((await two?.call('GET', '/api/company'))?.status).toBe(401);
    expect((await end(one, {})).body).toEqual({ ended: 1 });
    expect((await three?.call('GET', '/api/company'))?.status).toBe(401);
    // Nobody ends another person's session.
    const sunniva = await server.as('sunniva');
    const mine = (await one?.call('GET', '/api/account'))?.body.sessions[0];
    expect((await end(sunniva, { session: mine.id }, passwords.sunniva)).status).toBe(404);
    // An administrator ends all of somebody's.
    const { people } = (await sunniva.call('GET', '/api/people')).body;
    const { id } = people.find(({ logIn }: { logIn: string }) => logIn === 'tobiah');
    expect((await sunniva.call('POST', `/api/people/${id}/sessions/ended`)).body).toEqual({ ended: 1 });
    expect((await one?.call('GET', '/api/company'))?.status).toBe(401);
  });
});

describe('the second factor', () => {
  let ilka: Caller;
  let secret: string;
  let recovery: string[];
  const logIn = async (code?: string): Promise<[number, string]> => {
    const caller = server.caller();
    await caller.call('GET', '/api/session');
    const typed = { logIn: 'ilka', password: passwords.ilka, ...(code !== undefined && { code }) };
    const { status, body } = await caller.call('POST', '/api/session', typed);
    return [status, body.error?.code ?? ''];
  };
  beforeAll(async () => {
    ilka = await server.as('ilka');
  });

  it('begins with the password, and counts once a code of it was given', async () => {
    const begin = (password: string): ReturnType<Caller['call']> =>
      ilka.call('POST', '/api/account/second-factor', { password });
    expect((await begin('wrong password')).status).toBe(422);
    ({ secret } = (await begin(passwords.ilka)).body);
    expect(await logIn()).toEqual([200, '']);
    const { rows } = await server.database.raw('select secret from second_factor');
    expect(rows[0].secret.toString('latin1')).not.toContain(secret);
    const confirm = (code: string): ReturnType<Caller['call']> =>
      ilka.call('PUT', '/api/account/second-factor', { code });
    expect((await confirm('000000')).status).toBe(401);
    // Who is logged in elsewhere without it is no more.
    const elsewhere = await server.as('ilka');
    const confirmed = await confirm(codeAt(secret, now() - 30));
    recovery = confirmed.body.recoveryCodes;
    expect((await elsewhere.call('GET', '/api/company')).status).toBe(401);
    expect((await ilka.call('GET', '/api/company')).status).toBe(200);
    expect(new Set(recovery).size).toBe(10);
    expect((await begin(passwords.ilka)).body.error.code).toBe('second-factor-on');
  });

  it('is asked for after the password alone, and each code counts once', async () => {
    expect(await logIn()).toEqual([401, 'second-factor']);
    const code = codeAt(secret, now());
    expect(await logIn(`${code.slice(0, 3)} ${code.slice(3)}`)).toEqual([200, '']);
    expect(await logIn(code)).toEqual([401, 'wrong-code']);
    const [first = ''] = recovery;
    expect(await logIn(first.toLowerCase())).toEqual([200, '']);
    expect(await logIn(first)).toEqual([401, 'wrong-code']);
    expect((await ilka.call('GET', '/api/account')).body.recoveryCodesLeft).toBe(9);
  });

  it('opens with the secret of its installation, and with no other: a restore with another is told so', async () => {
    expect(await wrongSecret(server.database, server.secret)).toEqual([]);
    expect(await wrongSecret(server.database, 'x'.repeat(40))).toEqual([
      expect.stringMatching(/opens none of the \d+ second factors/),
    ]);
  });

  it('tells of a clock that is off, and lets nobody in by it', async () => {
    for (const [off, told] of [
      [-100, /about (90|120) seconds behind/],
      [100, /about (90|120) seconds ahead/],
    ] as const) {
      const caller = server.caller();
      await caller.call('GET', '/api/session');
      const typed = { logIn: 'ilka', password: passwords.ilka, code: codeAt(secret, now() + off) };
      const { status, body } = await caller.call('POST', '/api/session', typed);
      expect(status).toBe(401);
      expect(body.error.message).toMatch(told);
    }
  });

  it('is waited for after wrong codes in a row, each time longer, whoever typed them, and told of at the next log-in', async () => {
    await server.database('second_factor').update({ wrong_in_row: 0, wait_until: null, wrong_since: 0 });
    await server.database('log_in_failure').delete();
    const waits: number[] = [];
    for (let at = 0; at < 6; at += 1) {
      expect(await logIn(String(100_000 + at))).toEqual([401, 'wrong-code']);
      const row = await server.database('second_factor').whereNotNull('since').first();
      const waited = ((row?.wait_until?.getTime() ?? Date.now()) - Date.now()) / 1000;
      waits.push(Math.max(0, Math.round(waited)));
      // The right one is waited for as well, by the person from another place too.
      if (waited > 0) expect(await logIn(codeAt(secret, now() + 30))).toEqual([429, 'wait-for-code']);
      await server.database('second_factor').update({ wait_until: new Date() });
    }
    expect(waits).toEqual([0, 0, 5, 10, 20, 40]);
    await server.database('second_factor').update({ wait_until: null });
    await server.database('log_in_failure').delete();
    const caller = server.caller();
    await caller.call('GET', '/api/session');
    const typed = { logIn: 'ilka', password: passwords.ilka, code: recovery[1] };
    const entered = await caller.call('POST', '/api/session', typed);
    expect([entered.status, entered.body.wrongCodes]).toEqual([200, 6]);
    const again = await caller.call('POST', '/api/session', { ...typed, code: recovery[2] });
    expect([again.status, again.body.wrongCodes]).toEqual([200, 0]);
  });

  it('is guessed no more than ten times, and that it was refused stands in the trail once', async () => {
    await server.database('log_in_failure').delete();
    const refusals = (): Promise<unknown[]> =>
      server
        .database('audit_event')
        .where({ action: 'log-in-failed', subject: 'ilka' })
        .whereRaw(`detail ->> 'why' = 'too-many-failures'`);
    const before = (await refusals()).length;
    const tries: [number, string][] = [];
    for (let at = 0; at < 14; at += 1) {
      await server.database('second_factor').update({ wait_until: null });
      tries.push(await logIn(String(100_000 + at)));
    }
    expect(tries.at(-1)).toEqual([429, 'too-many-failures']);
    expect(tries.filter(([status]) => status === 401).length).toBeLessThanOrEqual(10);
    expect((await refusals()).length - before).toBe(1);
  });

  it('is turned off by who has it or a recovery code beside the password, and by nobody else', async () => {
    const off = (code: string): ReturnType<Caller['call']> =>
      ilka.call('POST', '/api/account/second-factor/removal', { password: passwords.ilka, code });
    await server.database('second_factor').update({ wrong_in_row: 0, wait_until: null });
    await server.database('log_in_failure').delete();
    expect((await off('000000')).body.error.code).toBe('wrong-code');
    expect((await off('A'.repeat(24))).body.error.code).toBe('wrong-code');
    expect((await ilka.call('GET', '/api/account')).body.secondFactorSince).not.toBeNull();
    expect((await off(recovery[3] ?? '')).status).toBe(200);
    expect((await ilka.call('GET', '/api/account')).body.secondFactorSince).toBeNull();
  });

  it('may be asked of everybody, which shuts out of the books who has none, and of nothing else', async () => {
    const sunniva = await server.as('sunniva');
    const require = (required: boolean): ReturnType<Caller['call']> =>
      sunniva.call('PUT', '/api/company/second-factor', { required });
    expect((await require(true)).body.error.message).toMatch(/of your own first/);
    const begun = await sunniva.call('POST', '/api/account/second-factor', { password: passwords.sunniva });
    const confirmed = await sunniva.call('PUT', '/api/account/second-factor', {
      code: codeAt(begun.body.secret, now()),
    });
    expect((await require(true)).status).toBe(200);
    const tobiah = await server.as('tobiah');
    for (const path of [
      '/api/company',
      '/api/register?on=2026-10-31',
      '/api/journal.csv?from=2026-09-01&to=2026-09-30',
    ]) {
      const { status, body } = await tobiah.call('GET', path);
      expect([path, status, body.error.code]).toEqual([path, 403, 'second-factor-needed']);
    }
    expect((await tobiah.call('GET', '/api/account')).body.requiredBy).toEqual(['Ostrel Glassworks']);
    const [first, second] = confirmed.body.recoveryCodes;
    const remove = (code: string): ReturnType<Caller['call']> =>
      sunniva.call('POST', '/api/account/second-factor/removal', { password: passwords.sunniva, code });
    const off = await remove(first);
    expect(off.body.error.code).toBe('second-factor-required');
    await require(false);
    expect((await tobiah.call('GET', '/api/company')).status).toBe(200);
    expect((await remove(second)).status).toBe(200);
  });
});
