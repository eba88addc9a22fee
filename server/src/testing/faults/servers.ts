import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import { freePort } from '../free-port.ts';

const root = fileURLToPath(new URL('../../../../', import.meta.url));
const endingThreads = new URL('ending-threads.mjs', import.meta.url).href;

/** What a server is told by its environment, beside its port. */
export type Environment = Readonly<Record<string, string>>;

/** A server, and who keeps it running, as `./coffer start` begins both. */
export class KeptServer {
  private keeper: ChildProcess | undefined;
  /** The process of the server that answered last. */
  private answered: string | undefined;

  private constructor(
    readonly port: number,
    private readonly log: string,
    private readonly environment: () => Environment,
  ) {}

  /** @param environment asked for each time it is begun */
  static async at(log: string, environment: () => Environment): Promise<KeptServer> {
    return new KeptServer(await freePort(), log, environment);
  }

  get address(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  /** Starts it if it does not run, and waits until it answers; one that ends as it begins is begun once more. */
  async start(): Promise<void> {
    let begun = 0;
    // Who keeps it running pauses longer each time that it ends soon; that is not waited for.
    if (this.pid() === undefined) await this.stop();
    for (let tried = 0; tried < 300; tried += 1) {
      if (!lives(this.keeper)) {
        // One whose keeper is gone ends by itself, once the calls that are under way have been answered.
        if (this.answered !== undefined && !hasEnded(this.answered)) {
          await setTimeout(100);
          continue;
        }
        begun += 1;
        if (begun > 2) throw new Error('The server ends as it begins.');
        this.spawn();
      }
      const answer = await fetch(`${this.address}/api/health`).catch(() => undefined);
      if (answer?.status === 200) {
        this.answered = this.pid();
        return;
      }
      await setTimeout(100);
    }
    throw new Error('The server does not answer any more.');
  }

  private spawn(): void {
    const program = [join(root, 'scripts/keep-running.mjs'), join(root, 'dist/server.mjs'), this.log];
    this.keeper = spawn(process.execPath, program, {
      env: {
        ...this.environment(),
        COFFER_PORT: String(this.port),
        NODE_OPTIONS: `--import=${endingThreads}`,
      },
      stdio: 'ignore',
    });
  }

  /** The process that is kept running at this moment. */
  private pid(): string | undefined {
    const { pid } = this.keeper ?? {};
    if (pid === undefined) return undefined;
    const [child] = spawnSync('pgrep', ['-P', String(pid)], { encoding: 'utf8' }).stdout.split('\n');
    return child && !hasEnded(child) ? child : undefined;
  }

  /** Whether the process that answered last still runs. */
  runs(): boolean {
    return this.answered !== undefined && this.pid() === this.answered;
  }

  async kill(): Promise<void> {
    const pid = this.pid();
    signal(pid, 'KILL');
    while (pid !== undefined && !hasEnded(pid)) await setTimeout(1);
  }

  endThreads(): void {
    signal(this.pid(), 'USR2');
  }

  /** Kills who keeps it running; it ends by itself then. */
  killKeeper(): void {
    this.keeper?.kill('SIGKILL');
    this.keeper = undefined;
  }

  /** Ends both. */
  async stop(): Promise<void> {
    const { keeper } = this;
    const pid = this.pid();
    if (lives(keeper)) {
      const ended = new Promise((resolve) => keeper.once('exit', resolve));
      keeper.kill('SIGKILL');
      await ended;
    }
    signal(pid, 'KILL');
    this.keeper = undefined;
  }
}

function lives(child: ChildProcess | undefined): child is ChildProcess {
  return child !== undefined && child.exitCode === null && child.signalCode === null;
}

/** Whether a process has ended, though whoever began it may not have heard yet: it has no command line any more. */
function hasEnded(pid: string): boolean {
  try {
    return readFileSync(`/proc/${pid}/cmdline`).length === 0;
  } catch {
    return true;
  }
}

function signal(pid: string | undefined, name: 'KILL' | 'USR2'): void {
  if (pid !== undefined) spawnSync('kill', [`-${name}`, pid]);
}
