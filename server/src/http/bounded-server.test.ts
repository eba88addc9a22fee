import type { Server } from 'node:http';
import { connect, type AddressInfo } from 'node:net';
import { afterEach, describe, expect, it } from 'vitest';
import { listening, TestServer } from '../testing/test-server.ts';
import { boundedServer } from './bounded-server.ts';

let server: Server | undefined;
afterEach(() => new Promise((resolve) => (server ? server.close(resolve) : resolve(undefined))));

/** Sends a text and nothing more; gives what came back until the other side ended it, and after how many milliseconds. */
function sent(address: string, text: string): Promise<{ answer: string; after: number }> {
  const begun = performance.now();
  return new Promise((resolve, reject) => {
    const { hostname, port } = new URL(address);
    const socket = connect(Number(port), hostname, () => socket.write(text));
    let answer = '';
    socket.on('data', (part) => (answer += String(part)));
    socket.on('error', reject);
    socket.on('close', () => resolve({ answer, after: performance.now() - begun }));
  });
}

describe('a call that does not come to its end', () => {
  it('is ended where its headers do not', async () => {
    server = boundedServer((_request, response) => response.end('whole'), 300);
    const address = await listening(server);
    const { answer } = await sent(address, 'GET / HTTP/1.1\r\nHost: ');
    expect(answer).toMatch(/^HTTP\/1\.1 408 /);
  });

  it('has fifteen seconds for its headers, a bounded number of connections, and a minute for its body', async () => {
    server = boundedServer((_request, response) => response.end());
    expect(server.headersTimeout).toBe(15_000);
    expect(server.maxConnections).toBe(1000);
    await listening(server);
    expect((server.address() as AddressInfo).address).toBe('127.0.0.1');
  });

  it('is ended where its body does not, and refused before that where it may not be made', async () => {
    const tested = await TestServer.start({ bodiesWithin: 300 });
    try {
      const visitor = tested.caller();
      await visitor.call('GET', '/api/session');
      const token = /XSRF-TOKEN[^=]*=([^;]+)/.exec(visitor.cookie)?.[1] ?? '';
      const headers = (path: string): string =>
        `POST ${path} HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/json\r\nContent-Length: 1000\r\n` +
        `Cookie: ${visitor.cookie}\r\nX-XSRF-TOKEN: ${decodeURIComponent(token)}\r\n\r\n{"logIn":`;
      const { answer } = await sent(tested.address, headers('/api/session'));
      expect(answer).toContain('408');
      expect(answer).toContain('not-arrived');
      const refused = await sent(tested.address, headers('/api/instruments'));
      expect(refused.answer).toContain('not-logged-in');
    } finally {
      await tested.stop();
    }
  });
});
