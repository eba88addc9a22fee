import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { request as plainRequest, type IncomingMessage } from 'node:http';
import { createServer, request, type Server } from 'node:https';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TLSSocket } from 'node:tls';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { TestServer } from '../testing/test-server.ts';

const host = 'books.example.com';
let server: TestServer;
let proxy: Server;
let certificate: Buffer;
beforeAll(async () => {
  server = await TestServer.startBehind(`https://${host}`);
  const folder = mkdtempSync(join(tmpdir(), 'coffer-tls-'));
  const [key, cert] = [join(folder, 'key.pem'), join(folder, 'cert.pem')];
  const made = ['req', '-x509', '-newkey', 'rsa:2048', '-nodes', '-days', '2', '-subj', `/CN=${host}`];
  execFileSync('openssl', [...made, '-addext', `subjectAltName=DNS:${host}`, '-keyout', key, '-out', cert], {
    stdio: 'ignore',
  });
  certificate = readFileSync(cert);
  proxy = proxyTo(server.address, readFileSync(key), certificate);
  await new Promise<void>((resolve) => proxy.listen(0, '127.0.0.1', resolve));
  rmSync(folder, { recursive: true });
});
afterAll(async () => {
  proxy.closeAllConnections();
  await new Promise((resolve) => proxy.close(resolve));
  await server.stop();
});

/** What docs/operating.md asks of a proxy: it ends TLS and says how, for what and from where it was called, whatever callers say. */
function proxyTo(address: string, key: Buffer, cert: Buffer): Server {
  return createServer({ key, cert, minVersion: 'TLSv1.2' }, (incoming, outgoing) => {
    const headers = {
      ...incoming.headers,
      'x-forwarded-proto': 'https',
      'x-forwarded-host': incoming.headers.host,
      'x-forwarded-for': incoming.socket.remoteAddress,
    };
    const onward = plainRequest(
      address + (incoming.url ?? ''),
      { method: incoming.method, headers },
      (answer) => {
        outgoing.writeHead(answer.statusCode ?? 502, answer.rawHeaders);
        answer.pipe(outgoing);
      },
    );
    onward.on('error', () => outgoing.destroy());
    incoming.pipe(onward);
  });
}

interface Answer {
  readonly status: number | undefined;
  readonly headers: IncomingMessage['headers'];
  readonly text: string;
  readonly version: string | null;
}

/** A call by TLS, to whoever has the certificate of the host. */
function call(path: string, cookie: string, body?: object, token = '', to = host): Promise<Answer> {
  const { port } = proxy.address() as AddressInfo;
  const sent = body === undefined ? '' : JSON.stringify(body);
  return new Promise((resolve, reject) => {
    const outgoing = request(
      {
        host: '127.0.0.1',
        port,
        path,
        servername: host,
        ca: certificate,
        method: body === undefined ? 'GET' : 'POST',
        headers: {
          host: to,
          cookie,
          'content-type': 'application/json',
          'content-length': Buffer.byteLength(sent),
          'x-xsrf-token': token,
        },
      },
      (answer) => {
        const version = (answer.socket as TLSSocket).getProtocol();
        let text = '';
        answer.setEncoding('utf8').on('data', (part: string) => (text += part));
        answer.on('end', () =>
          resolve({ status: answer.statusCode, headers: answer.headers, text, version }),
        );
      },
    );
    outgoing.on('error', reject);
    outgoing.end(sent);
  });
}
const cookiesOf = ({ headers }: Answer): string[] => headers['set-cookie'] ?? [];
const kept = (...answers: Answer[]): string =>
  answers.flatMap((answer) => cookiesOf(answer).map((set) => set.split(';')[0])).join('; ');

// ASVS 5.0, 12.2.1 and 12.2.2: TLS for every call, by a certificate that is verified; 3.3.1 and 3.4.1.
describe('by TLS, through a proxy', () => {
  it('somebody logs in, works and logs out, with cookies that no call without TLS can carry', async () => {
    const visit = await call('/api/session', '');
    expect([visit.status, visit.version]).toEqual([200, 'TLSv1.3']);
    expect(visit.headers['strict-transport-security']).toBe('max-age=31536000; includeSubDomains');
    const token = /XSRF-TOKEN=([^;]+)/.exec(kept(visit))?.[1] ?? '';
    const typed = { logIn: 'ilka', password: 'molten-sand-1450' };
    const entered = await call('/api/session', kept(visit), typed, decodeURIComponent(token));
    expect(entered.status, entered.text).toBe(200);
    for (const set of [...cookiesOf(visit), ...cookiesOf(entered)])
      expect(set).toMatch(/^__(Host|Secure)-.*; Secure/);
    const company = await call('/api/company', kept(visit, entered));
    expect([company.status, company.text]).toEqual([200, expect.stringContaining('Ostrel Glassworks')]);
  });

  it('nobody is answered by another name, or past it', async () => {
    expect((await call('/api/session', '', undefined, '', 'other.example.com')).status).toBe(421);
    expect((await fetch(`${server.address}/api/session`)).status).toBe(421);
  });
});
