import { randomBytes, randomUUID } from 'node:crypto';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Knex } from 'knex';
import { pino } from 'pino';
import { clockAt } from '../clock.ts';
import { connect } from '../database/connect.ts';
import { migrate } from '../database/migrate.ts';
import { loadCompany, loadDemo } from '../demo/load-demo.ts';
import { application, type Parts } from '../http/app.ts';
import { boundedServer } from '../http/bounded-server.ts';
import { installationId, publicPlace } from '../http/public-place.ts';
import { standInRateService } from '../stand-ins/rate-service/rate-service.ts';
import { verifyBooks } from '../verify/verify-books.ts';
import { FigureThreads } from '../workers/figure-threads.ts';
import { restoreRelease } from './releases/restore-release.ts';
import { besides, copyOf } from './templates.ts';

/** An answer of the server: its status and its body, read as JSON where it is. */
export interface Answer {
  readonly status: number;
  readonly headers: Headers;
  readonly text: string;
  // eslint-disable-next-line @typescript-eslint/no-explicit-any -- tests look into answers of every shape
  readonly body: any;
}

/** Someone who calls the server with a session of their own. */
export class Caller {
  private readonly cookies = new Map<string, string>();
  private ofSecond = false;

  constructor(private readonly address: string) {}

  /** The anti-forgery token, whatever its cookie is called. */
  private get token(): string {
    return [...this.cookies].find(([name]) => name.includes('XSRF-TOKEN'))?.[1] ?? '';
  }

  /** The cookies of the session, as a header. */
  get cookie(): string {
    return [...this.cookies].map(([name, value]) => `${name}=${value}`).join('; ');
  }

  /** The same person, who calls at another address. */
  at(address: string): Caller {
    const other = new Caller(address);
    for (const [name, value] of this.cookies) other.cookies.set(name, value);
    return other;
  }

  /** Makes a call; a body is sent as JSON unless it is text. The anti-forgery token and a fresh key go with it. */
  async call(
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<Answer> {
    const response = await fetch(this.address + path, {
      method,
      headers: {
        'content-type': 'application/json',
        'idempotency-key': randomUUID(),
        'x-xsrf-token': this.token,
        cookie: this.cookie,
        ...headers,
      },
      ...(body !== undefined && { body: typeof body === 'string' ? body : JSON.stringify(body) }),
    });
    for (const set of response.headers.getSetCookie()) {
      const [, name = '', value = ''] = /^([^=]+)=([^;]*)/.exec(set) ?? [];
      this.cookies.set(name, value);
    }
    const text = await response.text();
    // Whatever is asked, by whoever is not of it: nothing of the other company is ever answered.
    if (!this.ofSecond && text.includes(ofTheSecond)) {
      throw new Error(`${method} ${path} answers with what belongs to another company.`);
    }
    const json = response.headers.get('content-type')?.includes('json') ?? false;
    return {
      status: response.status,
      headers: response.headers,
      text,
      body: json ? JSON.parse(text) : undefined,
    };
  }

  /** Makes a call, and confirms whatever is asked about first. */
  async insist(method: string, path: string, body: object): Promise<Answer> {
    const first = await this.call(method, path, body);
    const questions = first.body?.error?.confirm as { code: string }[] | undefined;
    if (first.status !== 409 || !questions) return first;
    return this.call(method, path, { ...body, confirm: questions.map(({ code }) => code) });
  }

  /** Sends bytes as they are, said to be JSON, perhaps in a content encoding. */
  send(path: string, body: Uint8Array<ArrayBuffer>, encoding?: string): Promise<Response> {
    const headers = {
      'content-type': 'application/json',
      ...(encoding !== undefined && { 'content-encoding': encoding }),
      'idempotency-key': randomUUID(),
      'x-xsrf-token': this.token,
      cookie: this.cookie,
    };
    return fetch(this.address + path, { method: 'POST', headers, body });
  }

  /** Makes a call under a key that may be broken off. */
  abortable(path: string, body: object, key: string, signal: AbortSignal): Promise<Response> {
    const headers = {
      'content-type': 'application/json',
      'idempotency-key': key,
      'x-xsrf-token': this.token,
      cookie: this.cookie,
    };
    return fetch(this.address + path, { method: 'POST', headers, body: JSON.stringify(body), signal });
  }

  /** Sends a file as its bytes. */
  async sendFile(path: string, bytes: Uint8Array<ArrayBuffer>): Promise<Answer> {
    const { token } = this;
    const headers = {
      'content-type': 'application/octet-stream',
      'x-xsrf-token': token,
      cookie: this.cookie,
    };
    const response = await fetch(this.address + path, { method: 'POST', headers, body: bytes });
    const text = await response.text();
    return { status: response.status, headers: response.headers, text, body: JSON.parse(text) };
  }

  /** Fetches a file. */
  async bytes(path: string): Promise<ArrayBuffer> {
    return (await fetch(this.address + path, { headers: { cookie: this.cookie } })).arrayBuffer();
  }

  async logIn(logIn: string, password: string): Promise<Answer> {
    this.ofSecond = logIn === 'orrin' || logIn === 'hale';
    await this.call('GET', '/api/session');
    return this.call('POST', '/api/session', { logIn, password });
  }
}

/** Passwords of the demo company's people. */
export const passwords = {
  ilka: 'molten-sand-1450',
  bram: 'clear-lens-0730',
  sunniva: 'kiln-door-2210',
  tobiah: 'pale-cullet-318',
  /** Of the second company. */
  orrin: 'slow-wheel-3311',
  hale: 'slow-glaze-4402',
} as const;

/** The code that an installation of one's own is set up by. */
export const setUpCode = 'K7QM2XWP4LBN5RZD3TYC';

const demoFolder = fileURLToPath(new URL('../../../demo', import.meta.url));

/** Another company that keeps its books beside the demo company; all it has says so. */
const secondFolder = fileURLToPath(new URL('second-company', import.meta.url));
const ofTheSecond = 'Orrin';

const logger = pino({ level: 'silent' });
const workersFolder = fileURLToPath(new URL('../../../dist', import.meta.url));

/** The threads of all servers of a process: what they know they know by instrument, version and document. */
let figures: FigureThreads | undefined;

/** A folder of the demo company as it begins its books, with no instrument and no month closed. */
function emptyBooks(booksFrom: string): string {
  const folder = mkdtempSync(join(tmpdir(), 'coffer-books-'));
  const company = JSON.parse(readFileSync(join(demoFolder, 'company.json'), 'utf8')) as object;
  writeFileSync(
    join(folder, 'company.json'),
    JSON.stringify({ ...company, booksFrom, closedThrough: '2000-01-01', closing: 'one-person' }),
  );
  writeFileSync(join(folder, 'payments.json'), '[]');
  mkdirSync(join(folder, 'instruments'));
  return folder;
}

/** The application on a database of its own with the demo company. */
export class TestServer {
  private constructor(
    /** Under the role that the application has. */
    readonly database: Knex,
    /** The same under the role that owns it, as whoever keeps the machine has. */
    readonly owned: Knex,
    /** Where the application finds its database. */
    readonly url: string,
    readonly address: string,
    /** What the installation seals with. */
    readonly secret: string,
    private readonly figures: FigureThreads,
    private readonly close: () => Promise<void>,
  ) {}

  /**
   * Makes a database in the cluster that COFFER_TEST_DATABASE names, with the demo company and another beside it, and
   * serves it.
   */
  static start(more: Pick<Parts, 'bodiesWithin'> = {}): Promise<TestServer> {
    return TestServer.serve(demoFolder, 'demo', undefined, undefined, more);
  }

  /** What an earlier release left, brought to the form of this one; its people are those of the demo. */
  static startFromRelease(dump: string): Promise<TestServer> {
    return TestServer.serve(demoFolder, dump, undefined, dump);
  }

  /** The same behind a proxy that ends TLS for it. */
  static startBehind(publicUrl: string): Promise<TestServer> {
    return TestServer.serve(demoFolder, 'demo', publicUrl);
  }

  /** An installation of one's own that waits to be set up by {@link setUpCode}. */
  static startOwn(): Promise<TestServer> {
    return TestServer.serve(undefined, 'own');
  }

  private static async serve(
    folder: string | undefined,
    key: string,
    publicUrl?: string,
    dump?: string,
    more: Pick<Parts, 'bodiesWithin'> = {},
  ): Promise<TestServer> {
    const { COFFER_TEST_DATABASE: given, COFFER_TEST_OWNER: owner } = process.env;
    if (!given || !owner)
      throw new Error('COFFER_TEST_DATABASE and COFFER_TEST_OWNER are not set; run ./coffer test.');
    figures ??= new FigureThreads(workersFolder, logger);
    const threads = figures;
    const name = await copyOf(owner, key, async (template) => {
      if (dump !== undefined) restoreRelease(template, dump);
      const filled = connect(template);
      await migrate(filled);
      if (dump === undefined && folder !== undefined) {
        await loadDemo(filled, threads, folder, logger);
        await filled.transaction((on) => loadCompany(on, threads, secondFolder));
      }
      await filled.destroy();
    });
    const url = besides(given, name);
    const database = connect(url);
    const owned = connect(besides(owner, name));
    const rateService = standInRateService();
    const rateAddress = await listening(rateService);
    const secret = randomBytes(32).toString('hex');
    const { app, end } = application({
      database,
      databaseUrl: url,
      secret,
      place: publicPlace(publicUrl, installationId(secret)),
      figures: threads,
      workersFolder,
      demo: folder !== undefined,
      setUpCode,
      today: clockAt('2027-01-15'),
      rateService: rateAddress,
      logger,
      ...more,
    });
    const server = boundedServer(app);
    return new TestServer(database, owned, url, await listening(server), secret, threads, async () => {
      await closeServer(server);
      await closeServer(rateService);
      await end();
      await database.destroy();
      await owned.destroy();
      const maker = connect(owner);
      // Not by force: that may not end the server's own clean-up workers, which a plain drop waits out.
      await maker.raw(`drop database ${name}`);
      await maker.destroy();
    });
  }

  /** The demo company on the first day of its books, with no instrument. */
  static async startEmpty(booksFrom: string): Promise<TestServer> {
    const folder = emptyBooks(booksFrom);
    try {
      return await TestServer.serve(folder, `empty from ${booksFrom}`);
    } finally {
      rmSync(folder, { recursive: true });
    }
  }

  caller(): Caller {
    return new Caller(this.address);
  }

  /** Someone of the demo company, logged in. */
  async as(logIn: keyof typeof passwords): Promise<Caller> {
    const caller = this.caller();
    await caller.logIn(logIn, passwords[logIn]);
    return caller;
  }

  /** Sets the demo company to be closed by one person, as an administrator would. */
  async alone(): Promise<void> {
    const sunniva = await this.as('sunniva');
    const settings = { closing: 'one-person' };
    const { status, text } = await sunniva.call('POST', '/api/settings', { settings, reason: 'Alone' });
    if (status !== 200) throw new Error(text);
  }

  /** What does not agree in the books. */
  async disagreements(): Promise<string[]> {
    return (await verifyBooks(this.database, this.figures)).map(({ message }) => message);
  }

  stop(): Promise<void> {
    return this.close();
  }
}

/** The address of a server on any free port. */
export async function listening(server: Server): Promise<string> {
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
}

function closeServer(server: Server): Promise<void> {
  return new Promise((resolve) => {
    server.close(() => resolve());
    server.closeAllConnections();
  });
}

/** A level loan of the demo company's currency. */
export function loanDocument(name: string, more: object = {}): Record<string, unknown> {
  return {
    document: 'coffer.instrument/1',
    kind: 'loan',
    name,
    currency: 'EUR',
    amount: '100000.00',
    start: '2026-10-01',
    rate: { annual: '6%' },
    payments: { every: 'month', first: '2026-11-01', phases: [{ type: 'level', count: 360 }] },
    ...more,
  };
}
