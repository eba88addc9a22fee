import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import express from 'express';
import { afterEach, describe, expect, it } from 'vitest';
import { errorHandler } from './error-handler.ts';
import { limits } from './security.ts';

let server: Server;
afterEach(() => new Promise((resolve) => server.close(resolve)));

/** A server whose callers say by a header who they are. */
async function serving(ofSession: number, ofAddress: number): Promise<(who?: string) => Promise<number>> {
  const app = express();
  const { byAddress, bySession } = limits(ofSession, ofAddress);
  app.use(byAddress, (request, _response, next) => {
    const who = request.get('who');
    Object.assign(request, { sessionID: who ?? 'none', session: who === undefined ? {} : { personId: 1 } });
    next();
  });
  app.get('/', bySession, (_request, response) => void response.json({}));
  app.use(errorHandler);
  server = createServer(app);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
  return async (who) => (await fetch(address, who === undefined ? {} : { headers: { who } })).status;
}

describe('calls of a minute', () => {
  it('are limited for each session by itself, whoever else sits behind the address', async () => {
    const call = await serving(2, 100);
    expect([await call('ilka'), await call('ilka'), await call('ilka')]).toEqual([200, 200, 429]);
    expect(await call('bram')).toBe(200);
    expect([await call(), await call(), await call()]).toEqual([200, 200, 200]);
  });

  it('are limited for an address, whoever calls', async () => {
    const call = await serving(100, 3);
    expect([await call('ilka'), await call('bram'), await call(), await call('sunniva')]).toEqual([
      200, 200, 200, 429,
    ]);
  });
});
