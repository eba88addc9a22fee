import { request } from 'node:http';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { readConfiguration } from '../configuration.ts';
import { TestServer } from '../testing/test-server.ts';

const url = 'https://books.example.com';
let server: TestServer;
beforeAll(async () => {
  server = await TestServer.startBehind(url);
});
afterAll(() => server.stop());

/** A browser whose calls a proxy passes on, which has ended TLS for them. */
class Browser {
  readonly cookies = new Map<string, string>();

  async call(
    path: string,
    body?: object,
    passedOn: Record<string, string> = proxied,
    method = body ? 'POST' : 'GET',
  ): Promise<Response> {
    const response = await fetch(server.address + path, {
      method,
      headers: {
        'content-type': 'application/json',
        'x-xsrf-token': this.cookies.get('__Host-XSRF-TOKEN') ?? '',
        cookie: [...this.cookies].map(([name, value]) => `${name}=${value}`).join('; '),
        ...passedOn,
      },
      ...(body && { body: JSON.stringify(body) }),
    });
    for (const cookie of response.headers.getSetCookie()) {
      const [, name = '', value = ''] = /^([^=]+)=([^;]*)/.exec(cookie) ?? [];
      this.cookies.set(name, value);
    }
    return response;
  }
}

const proxied = {
  'x-forwarded-proto': 'https',
  'x-forwarded-host': 'books.example.com',
  'x-forwarded-for': '203.0.113.9',
};
const logIn = { logIn: 'ilka', password: 'molten-sand-1450' };

describe('behind a proxy that ends TLS', () => {
  // RFC 6265bis, 4.1.3: what __Host- asks of a cookie; RFC 6797, 6.1: Strict-Transport-Security.
  it('sets cookies that only this host can have set, over TLS alone, and says that TLS stays', async () => {
    const browser = new Browser();
    const visit = await browser.call('/api/session');
    expect(visit.headers.get('strict-transport-security')).toBe('max-age=31536000; includeSubDomains');
    const entered = await browser.call('/api/session', logIn);
    expect(entered.status).toBe(200);
    const set = [...visit.headers.getSetCookie(), ...entered.headers.getSetCookie()];
    expect(set.map((cookie) => cookie.split('=')[0]).sort()).toEqual([
      '__Host-XSRF-TOKEN',
      '__Host-XSRF-TOKEN',
      '__Host-coffer',
      expect.stringMatching(/^__Secure-coffer-known-/),
    ]);
    for (const cookie of set) {
      expect(cookie).toMatch(/; Secure/);
      expect(cookie).not.toMatch(/; Domain/);
      if (cookie.startsWith('__Host-')) expect(cookie).toMatch(/; Path=\/(;|$)/);
    }
    // The row is written as the answer ends.
    await vi.waitFor(async () => {
      const row = await server.database('session').first('sess');
      expect(row?.sess).toMatchObject({ address: '203.0.113.9', cookie: { secure: true } });
    });
    const left = await browser.call('/api/session', {}, proxied, 'DELETE');
    expect([left.status, left.headers.get('clear-site-data')]).toEqual([200, '"cache"']);
    expect(left.headers.getSetCookie().find((cookie) => cookie.startsWith('__Host-coffer='))).toMatch(
      /Expires=Thu, 01 Jan 1970/,
    );
    expect((await browser.call('/api/company')).status).toBe(401);
  });

  it('answers nobody who came for another host, or without TLS; whoever watches over it is answered', async () => {
    const without = new Browser();
    for (const passedOn of [
      {},
      { ...proxied, 'x-forwarded-host': 'evil.example' },
      { ...proxied, 'x-forwarded-proto': 'http' },
    ]) {
      const answer = await without.call('/api/session', undefined, passedOn);
      expect([answer.status, answer.headers.getSetCookie()]).toEqual([421, []]);
    }
    expect((await without.call('/api/health', undefined, {})).status).toBe(200);
  });

  it('is told of by an address with TLS and without a path, and by nothing else', () => {
    const given = { COFFER_DATABASE: 'postgres://a@127.0.0.1/b', COFFER_SECRET: 'x'.repeat(32) };
    const read = (COFFER_PUBLIC_URL: string): unknown => readConfiguration({ ...given, COFFER_PUBLIC_URL });
    expect(read(url)).toMatchObject({ COFFER_PUBLIC_URL: url });
    for (const wrong of [
      'http://books.example.com',
      'https://books.example.com/coffer',
      'books.example.com',
      '',
    ])
      expect(() => read(wrong)).toThrow(/COFFER_PUBLIC_URL/);
  });
});

describe('on the machine itself', () => {
  it('believes nobody who says to be a proxy', async () => {
    const plain = await TestServer.start();
    try {
      const answer = await fetch(`${plain.address}/api/session`, { headers: proxied });
      expect(answer.headers.get('strict-transport-security')).toBeNull();
      // A name that was made to lead here is none of its own (DNS rebinding).
      const port = new URL(plain.address).port;
      for (const [host, status] of [
        [`127.0.0.1:${port}`, 200],
        [`localhost:${port}`, 200],
        [`[::1]:${port}`, 200],
        [`books.example.com:${port}`, 421],
        ['127.0.0.1.example.com', 421],
      ] as const)
        expect([host, await statusFor(plain.address, host)]).toEqual([host, status]);
      expect(answer.headers.getSetCookie()[0]).toMatch(/^XSRF-TOKEN-[0-9a-f]{8}=(?!.*Secure)/);
    } finally {
      await plain.stop();
    }
  });
});

/** What is answered to a call that says which host it is for. */
function statusFor(address: string, host: string): Promise<number | undefined> {
  return new Promise((resolve, reject) => {
    const call = request(`${address}/api/session`, { headers: { host } }, (answer) => {
      answer.resume();
      resolve(answer.statusCode);
    });
    call.on('error', reject);
    call.end();
  });
}
