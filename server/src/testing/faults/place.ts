import { execFileSync, spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { chmodSync, existsSync, mkdtempSync, readFileSync, rmSync, statfsSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import type { Knex } from 'knex';
import pg from 'pg';
import { connect } from '../../database/connect.ts';
import { migrate } from '../../database/migrate.ts';
import { loadDemo } from '../../demo/load-demo.ts';
import { verifyBooks } from '../../verify/verify-books.ts';
import { FigureThreads } from '../../workers/figure-threads.ts';
import { releases, restoreRelease } from '../releases/restore-release.ts';
import { Caller, setUpCode } from '../test-server.ts';
import { KeptServer, type Environment } from './servers.ts';

const root = fileURLToPath(new URL('../../../../', import.meta.url));
const dist = join(root, 'dist');
const secret = 'a secret of the tests that is long enough';
/** Bytes of the disk that such a place has, where it may have one of its own. */
const diskSize = '900m';

/** An installation with a cluster of its own, whose programs may be killed and whose disk may be full. */
export class Place {
  readonly home = mkdtempSync(join(tmpdir(), 'coffer-faults-'));
  /** Whether it has a disk of its own, which can be filled. */
  readonly ownDisk: boolean;
  /** Which of its servers serves the empty installation. */
  readonly own = 2;
  private servers: readonly KeptServer[] = [];
  private readonly figures = new FigureThreads(dist, pino({ level: 'silent' }));
  private running: ChildProcess[] = [];
  private watcher: pg.Client | undefined;

  constructor() {
    chmodSync(this.home, 0o755);
    const mounted = spawnSync('mount', [
      '-t',
      'tmpfs',
      '-o',
      `size=${diskSize},mode=755`,
      'tmpfs',
      this.home,
    ]);
    this.ownDisk = mounted.status === 0;
  }

  /** Makes the cluster, and in it the demo company that every life begins with. */
  async make(): Promise<void> {
    this.startCluster();
    const url = this.url('coffer_owner');
    const filled = connect(url);
    await migrate(filled);
    await loadDemo(filled, this.figures, join(root, 'demo'), pino({ level: 'silent' }));
    await filled.destroy();
    this.asKeeper(
      'alter database coffer rename to filled',
      ...['release', 'empty'].map((name) => `create database ${name} owner coffer_owner`),
    );
    restoreRelease(this.url('coffer_owner', 'release'), releases.at(-1) ?? '');
    const empty = connect(this.url('coffer_owner', 'empty'));
    await migrate(empty);
    await empty.destroy();
    const demo = { COFFER_DEMO: join(root, 'demo'), COFFER_TODAY: '2026-11-03' };
    // What its servers say is kept beside it: its disk may be full.
    const at = (name: string, more: Environment): Promise<KeptServer> =>
      KeptServer.at(`${this.home}.log`, () => ({
        COFFER_DATABASE: this.url('coffer', name),
        COFFER_SECRET: secret,
        ...more,
      }));
    this.servers = [
      await at('coffer', demo),
      await at('coffer', demo),
      await at('own', { COFFER_SET_UP_CODE: setUpCode }),
    ];
  }

  /** A new life: the demo company as it was, and nobody who serves it. */
  async begin(): Promise<void> {
    await this.watcher?.end().catch(() => undefined);
    this.watcher = undefined;
    await this.stopServers();
    this.startCluster();
    this.copied('filled', 'coffer');
  }

  /** A database as a copy of another one, whatever was there. */
  private copied(from: string, name: string): void {
    // Copied as files: copied by its log, PostgreSQL 15 may give numbers of a sequence twice after it was killed.
    this.asKeeper(
      `drop database if exists ${name} with (force)`,
      `create database ${name} template ${from} owner coffer_owner strategy file_copy`,
      `revoke all on database ${name} from public`,
      `grant connect on database ${name} to coffer`,
    );
  }

  /** What an earlier release left, in the database `older`. */
  older(): void {
    this.copied('release', 'older');
  }

  /** An installation that waits to be set up, in the database `own`, and its server. */
  async emptied(): Promise<void> {
    await this.server(this.own).stop();
    this.copied('empty', 'own');
    await this.server(this.own).start();
  }

  /** Where a database is, under a role. */
  url(role: 'coffer' | 'coffer_owner', name = 'coffer'): string {
    const file = role === 'coffer' ? 'database-password' : 'owner-password';
    return `postgres://${role}:${this.read(`secrets/${file}`)}@127.0.0.1:${this.read('database-port')}/${name}`;
  }

  private read(file: string): string {
    return readFileSync(join(this.home, file), 'utf8').trim();
  }

  /** Runs functions of the scripts on this installation, as `./coffer` does. */
  script(commands: string, home = this.home): { readonly status: number | null; readonly said: string } {
    const done = spawnSync('bash', ['-c', sourcing(commands)], {
      env: environment(home),
      stdio: ['ignore', 'pipe', 'pipe'],
      encoding: 'utf8',
    });
    return { status: done.status, said: done.stderr };
  }

  /** The same, while it may be killed; gives its exit code. */
  command(commands: string, home: string): Promise<number | null> {
    const child = spawn('bash', ['-c', sourcing(commands)], {
      env: environment(home),
      stdio: 'ignore',
      detached: true,
    });
    this.running = [...this.running.filter(({ exitCode }) => exitCode === null), child];
    return new Promise((resolve) => child.once('exit', (code) => resolve(code)));
  }

  /** Kills the command that was begun first and runs, with all that it has begun. */
  killCommand(): void {
    const running = this.running.find(({ exitCode }) => exitCode === null);
    if (running?.pid !== undefined) spawnSync('kill', ['-9', '--', `-${running.pid}`]);
  }

  startCluster(home = this.home): void {
    for (let tried = 0; tried < 20; tried += 1) {
      const { status, said } = this.script(`start_cluster '${home}'`, home);
      if (status === 0) return;
      if (tried === 19) throw new Error(`The database does not start: ${said}`);
      // What was killed may hold its memory for a moment yet.
      spawnSync('sleep', ['0.3']);
    }
  }

  private asKeeper(...statements: string[]): void {
    const given = statements.map((sql) => `-c '${sql}'`).join(' ');
    const { status, said } = this.script(`keeper_sql '${this.home}' ${given}`);
    if (status !== 0) throw new Error(said);
  }

  address(at = 0): string {
    return this.server(at).address;
  }

  server(at = 0): KeptServer {
    return this.servers[at] as KeptServer;
  }

  /** Somebody who calls one of its servers. */
  caller(at = 0): Caller {
    return new Caller(this.address(at));
  }

  private async stopServers(): Promise<void> {
    for (const server of this.servers) await server.stop();
  }

  /** Kills the database of a home: all of it, or one of those that work for somebody, upon which it begins anew by itself. */
  killDatabase(whole: boolean, home = this.home): void {
    const file = join(home, 'postgres/postmaster.pid');
    if (!existsSync(file)) return;
    const first = Number(readFileSync(file, 'utf8').split('\n')[0]);
    const children = spawnSync('pgrep', ['-P', String(first)], { encoding: 'utf8' })
      .stdout.split('\n')
      .filter(Boolean);
    const serving = children.filter((pid) => / coffer .*127\.0\.0\.1/.test(titleOf(pid)));
    const killed = whole || serving.length === 0 ? [String(first), ...children] : serving.slice(0, 1);
    for (const pid of killed) spawnSync('kill', ['-9', pid]);
  }

  /** Ends the connections that the application has. */
  cutConnections(): void {
    this.script(
      `keeper_sql '${this.home}' -c "select pg_terminate_backend(pid) from pg_stat_activity where usename = 'coffer'" >/dev/null`,
    );
  }

  /** Looks at what the database does, as who keeps it; begun anew where that was killed. */
  private async looking(): Promise<pg.Client> {
    if (this.watcher) return this.watcher;
    // What others do is told to nobody but who keeps the cluster.
    const client = new pg.Client({
      connectionString: `postgres://keeper:${this.read('secrets/keeper-password')}@127.0.0.1:${this.read('database-port')}/postgres`,
    });
    client.on('error', () => (this.watcher = undefined));
    client.on('end', () => (this.watcher = undefined));
    await client.connect();
    this.watcher = client;
    return client;
  }

  /** Whether the application is between the beginning and the end of a transaction that has written at this moment. */
  async inTransaction(): Promise<boolean> {
    try {
      const client = await this.looking();
      // A number of its own is given to a transaction with its first change (PostgreSQL, 74.1). That a session is used
      // is kept by itself.
      const { rows } = await client.query(
        `select from pg_stat_activity where usename = 'coffer' and xact_start is not null and backend_xid is not null
           and query !~ '"?session"?'`,
      );
      return rows.length > 0;
    } catch {
      this.watcher = undefined;
      return false;
    }
  }

  /** Waits until the application is in a transaction, or what was to begin one has ended without. */
  async begunTransaction(ended: () => boolean): Promise<void> {
    while (!ended() && !(await this.inTransaction())) await setTimeout(2);
  }

  /** Fills the disk but for some bytes. */
  fillDisk(left: number): void {
    const { bavail, bsize } = statfsSync(this.home);
    const size = bavail * bsize - left;
    if (size > 0) spawnSync('fallocate', ['-l', String(size), join(this.home, 'filler')]);
  }

  emptyDisk(): void {
    rmSync(join(this.home, 'filler'), { force: true });
  }

  /** Asks the database something, as its owner. */
  async asked<Row extends object>(sql: string, name = 'coffer'): Promise<Row> {
    const database = connect(this.url('coffer_owner', name));
    try {
      const { rows } = await database.raw<{ rows: Row[] }>(sql);
      return rows[0] as Row;
    } finally {
      await database.destroy();
    }
  }

  /** What of everything that is kept does not agree. */
  async disagreements(): Promise<string[]> {
    const database: Knex = connect(this.url('coffer'));
    try {
      return (await verifyBooks(database, this.figures)).map(({ message }) => message);
    } finally {
      await database.destroy();
    }
  }

  async end(): Promise<void> {
    await this.watcher?.end().catch(() => undefined);
    await this.stopServers();
    await this.figures.end();
    if (existsSync(join(this.home, 'postgres'))) this.script(`stop_cluster '${this.home}'`);
    if (this.ownDisk) execFileSync('umount', ['-l', this.home]);
    rmSync(this.home, { recursive: true, force: true });
    rmSync(`${this.home}.log`, { force: true });
  }
}

/** What commands are told: the place, and that its cluster holds other databases too. */
const environment = (home: string): NodeJS.ProcessEnv => ({
  PATH: process.env['PATH'],
  COFFER_HOME: home,
  COFFER_MANY_DATABASES: 'yes',
});

/** Commands with the functions of the scripts, as `./coffer` has them. */
function sourcing(commands: string): string {
  const sourced = ['machine', 'cluster', 'application', 'backup'].map(
    (name) => `. "$root/scripts/${name}.sh"`,
  );
  return `set -euo pipefail; root=${root.replace(/\/$/, '')}; ${sourced.join('; ')}; ${commands}`;
}

/** What a process says it is: for PostgreSQL, for whom it works. */
function titleOf(pid: string): string {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').replaceAll('\0', ' ');
  } catch {
    return '';
  }
}
