import { TOTP, Secret } from 'otpauth';
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import { passwords, TestServer, type Caller } from '../testing/test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.stop());
afterEach(() => vi.useRealTimers());

const hour = 3_600_000;
/** The clock of the server goes on from somewhere else; timers, and the clock of the database, go on as before. */
function jump(by: number): void {
  const to = Date.now() + by;
  vi.useFakeTimers({ toFake: ['Date'] });
  vi.setSystemTime(to);
}
const entered = async (who: Caller): Promise<number> => (await who.call('GET', '/api/company')).status;

// A clock that was wrong and is put right: by summer time typed by hand, a battery that is empty, a machine that was asleep.
describe('a clock that jumps', () => {
  it.each([
    ['an hour ahead', hour, 200],
    // Longer than a session is left unused for, or may last at all.
    ['a day ahead', 24 * hour, 401],
    ['an hour back', -hour, 401],
    ['a day back', -24 * hour, 401],
  ])(
    '%s ends a session where it would last too long, and never hinders logging in',
    async (_, by, status) => {
      const ilka = await server.as('ilka');
      jump(by);
      expect(await entered(ilka)).toBe(status);
      const again = await server.as('ilka');
      expect(await entered(again)).toBe(200);
      // It is put right: what began meanwhile lasts no longer than from now on.
      vi.useRealTimers();
      expect(await entered(again)).toBe(by > 0 ? 401 : by < -2 * hour ? 401 : 200);
      expect(await entered(await server.as('ilka'))).toBe(200);
    },
  );

  it('back shuts nobody out by attempts, codes or waits that are still to come', async () => {
    const bram = await server.as('bram');
    const { secret } = (await bram.call('POST', '/api/account/second-factor', { password: passwords.bram }))
      .body;
    const codes = new TOTP({ secret: Secret.fromBase32(secret) });
    const logIn = async (code: string): Promise<[number, string]> => {
      const caller = server.caller();
      await caller.call('GET', '/api/session');
      const typed = { logIn: 'bram', password: passwords.bram, code };
      const { status, body } = await caller.call('POST', '/api/session', typed);
      return [status, body.error?.code ?? ''];
    };
    const now = (): string => codes.generate({ timestamp: Date.now() });
    jump(24 * hour);
    // Coming from the day before, the session has ended; one of that day begins.
    const ahead = await server.as('bram');
    expect((await ahead.call('PUT', '/api/account/second-factor', { code: now() })).status).toBe(200);
    expect(await logIn('000000')).toEqual([401, 'wrong-code']);
    expect(await logIn('000000')).toEqual([401, 'wrong-code']);
    expect(await logIn('000000')).toEqual([401, 'wrong-code']);
    expect(await logIn(now())).toEqual([429, 'wait-for-code']);
    // The database's clock was ahead as well.
    await server.database('log_in_failure').update({ at: server.database.raw(`at + interval '1 day'`) });
    vi.useRealTimers();
    expect(await logIn(now())).toEqual([200, '']);
    expect(await server.database('log_in_failure')).toEqual([]);
  });

  it('leaves the trail whole, and a month can be closed', async () => {
    jump(-24 * hour);
    const ilka = await server.as('ilka');
    const { digest } = (await ilka.call('GET', '/api/periods/2026-10-31/close')).body;
    expect((await ilka.insist('POST', '/api/periods/2026-10-31/hand-over', { digest })).status).toBe(200);
    expect(await server.disagreements()).toEqual([]);
  });
});
