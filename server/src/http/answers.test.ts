import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import express from 'express';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { listening, loanDocument, TestServer, type Caller } from '../testing/test-server.ts';
import { publicPlace } from './public-place.ts';
import { headers, styleNonce } from './security.ts';
import { site } from './site.ts';

let server: TestServer;
let ilka: Caller;
beforeAll(async () => {
  server = await TestServer.start();
  ilka = await server.as('ilka');
});
afterAll(() => server.stop());

/** Asks by whatever method, with the address sent as it is written. */
function asked(
  address: string,
  method: string,
  path: string,
  sent: Record<string, string> = {},
): Promise<{ status: number; headers: Record<string, unknown>; text: string }> {
  const { hostname, port } = new URL(address);
  return new Promise((resolve, reject) => {
    const call = request({ hostname, port, method, path, headers: sent }, (answer) => {
      let text = '';
      answer.setEncoding('utf8').on('data', (part: string) => (text += part));
      answer.on('end', () => resolve({ status: answer.statusCode ?? 0, headers: answer.headers, text }));
    });
    call.on('error', reject).end();
  });
}

// OWASP ASVS 5.0, items as docs/security.md names them.
describe('an answer of the interface', () => {
  it('is JSON in UTF-8 that nobody keeps, guesses about, frames or reads from elsewhere (3.2.1, 3.4, 4.1.1, 14.3.2)', async () => {
    const origin = { origin: 'https://evil.example' };
    const { headers: given } = await ilka.call('GET', '/api/company', undefined, origin);
    const of: Record<string, string> = {};
    given.forEach((value, name) => (of[name] = value));
    expect(of).toMatchObject({
      'content-type': 'application/json; charset=utf-8',
      'cache-control': 'no-store',
      'x-content-type-options': 'nosniff',
      'referrer-policy': 'no-referrer',
      'cross-origin-resource-policy': 'same-origin',
    });
    const before = { ...origin, 'access-control-request-method': 'POST' };
    const preflight = await asked(server.address, 'OPTIONS', '/api/payments', before);
    for (const name of [...Object.keys(of), ...Object.keys(preflight.headers)])
      expect(name).not.toMatch(/^access-control/);
  });

  it('does not give back what came, whatever the method, nor lead elsewhere (4.1.2, 13.4.4)', async () => {
    for (const method of ['TRACE', 'DELETE', 'PATCH', 'PROPFIND']) {
      const {
        status,
        headers: of,
        text,
      } = await asked(server.address, method, '/api/company', {
        'x-told': 'a secret of the caller',
      });
      expect([method, status >= 400, of['location']]).toEqual([method, true, undefined]);
      expect(text).not.toContain('a secret of the caller');
    }
  });

  it('takes a parameter once, and nothing from what every object has (15.3.6, 15.3.7)', async () => {
    const twice = await ilka.call('GET', '/api/register?on=2026-10-31&on=2026-09-30');
    expect([twice.status, twice.body.error.faults[0].key]).toEqual([422, 'on']);
    const document = JSON.stringify(loanDocument('Odd')).replace('{', '{"__proto__":{"lender":"nobody"},');
    const odd = await ilka.call('POST', '/api/instruments', `{"document":${document}}`);
    expect(odd.status).toBe(422);
    expect(({} as Record<string, unknown>)['lender']).toBeUndefined();
  });

  it('that is a file is called what no path can be (5.4.1, 5.4.2)', async () => {
    const name = '../../etc/passwd: "größer" <b>';
    const { body } = await ilka.insist('POST', '/api/instruments', { document: loanDocument(name) });
    const { headers: of } = await ilka.call('GET', `/api/instruments/${body.id}/schedule.csv`);
    const given = of.get('content-disposition') ?? '';
    expect(given).toMatch(/^attachment; /);
    // RFC 6266 and RFC 8187: letters beyond ISO 8859-1 are percent-encoded.
    expect(decodeURIComponent(given)).not.toMatch(/[/\\<>:]|\.\.\//);
  });
});

describe('the pages', () => {
  it('are what was built and nothing beside it; any other path is the page, which runs no script of its own (13.4.1, 13.4.3)', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'coffer-site-'));
    mkdirSync(join(folder, 'site/.git'), { recursive: true });
    mkdirSync(join(folder, 'site/part'));
    writeFileSync(join(folder, 'secret.txt'), 'secret');
    writeFileSync(join(folder, 'site/.git/config'), 'secret');
    writeFileSync(join(folder, 'site/main-ABCDEFGH.js'), 'built');
    writeFileSync(join(folder, 'site/index.html'), '<style nonce="COFFER_NONCE"></style>');
    const place = publicPlace(undefined, 'abcd0123');
    const pages = createServer(express().use(styleNonce, headers(place), site(join(folder, 'site'), place)));
    const address = await listening(pages);
    for (const path of [
      '/.git/config',
      '/../secret.txt',
      '/..%2fsecret.txt',
      '/%2e%2e/secret.txt',
      '/part/',
      '/',
    ]) {
      const { text } = await asked(address, 'GET', path);
      expect([path, text.includes('secret'), text.includes('main-')]).toEqual([path, false, false]);
    }
    expect((await asked(address, 'GET', '/main-ABCDEFGH.js')).text).toBe('built');
    const page = await asked(address, 'GET', '/close');
    const nonce = /nonce="([^"]+)"/.exec(page.text)?.[1];
    expect(page.headers['content-security-policy']).toContain(`'nonce-${nonce}'`);
    expect(page.headers['content-security-policy']).toContain("script-src 'self';");
    await new Promise((resolve) => pages.close(resolve));
    rmSync(folder, { recursive: true });
  });
});
