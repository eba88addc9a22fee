import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { Worker } from 'node:worker_threads';
import { fileURLToPath } from 'node:url';
import { Caller, passwords, TestServer } from '../test-server.ts';
import { freePort } from '../free-port.ts';

/** What was seen inside a server since it was last looked at. */
export interface Seen {
  /** The longest that its event loop was held up, milliseconds. */
  readonly longest: number;
  /** Resident memory at the end, bytes. */
  readonly memory: number;
}

/** What was seen while something was done. */
export interface During extends Seen {
  /** Light calls of a bystander that were refused. */
  readonly refused: number;
  /** How long such a call took at most in 99 of a hundred cases, milliseconds. */
  readonly p99: number;
  /** The same as a multiple of what it takes at a server that does nothing else. */
  readonly slower: number;
}

/** The built application in a process of its own, of which it can be told how long anybody had to wait. */
export class WatchedServer {
  private constructor(
    readonly test: TestServer,
    readonly address: string,
    private readonly running: ChildProcess,
  ) {}

  /** Starts it on a database with the demo company. */
  static async start(): Promise<WatchedServer> {
    const test = await TestServer.start();
    const port = await freePort();
    const place = (path: string): string => fileURLToPath(new URL(path, import.meta.url));
    const running = spawn(
      process.execPath,
      ['--import', place('watch-loop.mjs'), place('../../../../dist/server.mjs')],
      {
        env: {
          COFFER_DATABASE: test.url,
          COFFER_PORT: String(port),
          COFFER_SECRET: 'x'.repeat(40),
          COFFER_TODAY: '2026-11-03',
          COFFER_LOG: 'warn',
        },
        stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
      },
    );
    const server = new WatchedServer(test, `http://127.0.0.1:${port}`, running);
    await server.answers();
    return server;
  }

  private async answers(): Promise<void> {
    for (let tried = 0; tried < 200; tried += 1) {
      if (await fetch(`${this.address}/api/health`).catch(() => undefined)) return;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    throw new Error('The application does not answer.');
  }

  caller(): Caller {
    return new Caller(this.address);
  }

  /** Someone of the demo company, logged in. */
  async as(logIn: keyof typeof passwords): Promise<Caller> {
    const caller = this.caller();
    const { status, text } = await caller.logIn(logIn, passwords[logIn]);
    if (status !== 200) throw new Error(text);
    return caller;
  }

  /** What was seen since this was last asked. */
  async seen(): Promise<Seen> {
    const told = once(this.running, 'message');
    this.running.send('looked');
    const [seen] = (await told) as [Seen];
    return seen;
  }

  /**
   * What a bystander who only looks sees while something is done again and again, and what is seen inside. It is looked
   * at a few times: what the machine does besides may hold anything up once.
   *
   * @param enough whether what was seen is as it should be
   */
  async during(
    bystander: Caller,
    act: () => Promise<unknown>,
    enough: (seen: During) => boolean,
  ): Promise<During> {
    let seen: During | undefined;
    for (let tried = 0; tried < mostTried && !(seen && enough(seen)); tried += 1) {
      const idle = await this.lightCalls(bystander, () => sleep(200));
      await this.seen();
      const busy = await this.lightCalls(bystander, act);
      const { longest, memory } = await this.seen();
      seen = { longest, memory, refused: busy.refused, p99: busy.p99, slower: busy.p99 / idle.p99 };
    }
    return seen as During;
  }

  private async lightCalls(
    bystander: Caller,
    act: () => Promise<unknown>,
  ): Promise<{ p99: number; refused: number }> {
    const workerData = { address: `${this.address}/api/company`, headers: { cookie: bystander.cookie } };
    const calls = new Worker(new URL('light-calls.mjs', import.meta.url), { workerData });
    await once(calls, 'online');
    const until = performance.now() + lookedAt;
    do await act();
    while (performance.now() < until);
    const told = once(calls, 'message');
    calls.postMessage('stop');
    const [took] = (await told) as [{ p99: number; refused: number }];
    return took;
  }

  async stop(): Promise<void> {
    const ended = once(this.running, 'exit');
    this.running.kill('SIGTERM');
    await ended;
    await this.test.stop();
  }
}

/** Milliseconds that something is looked at for: some hundred light calls. */
const lookedAt = 1800;
/** How often it is looked at: what really holds others up does so each time. */
const mostTried = 12;

function sleep(milliseconds: number): Promise<void> {
  return new Promise((resolve) => setTimeout(resolve, milliseconds));
}
