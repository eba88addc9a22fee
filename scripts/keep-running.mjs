// Keeps a program running: begins it again after it has failed, and writes what it says into a log that is turned over.
//
//   node keep-running.mjs PROGRAM LOG
//
// COFFER_RUN_AS, `uid:gid`, names the account that the program runs under. SIGTERM ends both. What ends by itself before it
// has lived a while the first time is not begun again: whoever starts it is there to see why. Exit code 3 says that beginning again
// is of no use.
import { Buffer } from 'node:buffer';
import { spawn } from 'node:child_process';
import { chmodSync, closeSync, constants, fstatSync, openSync, renameSync, writeSync } from 'node:fs';
import { setTimeout } from 'node:timers/promises';

const [program, log] = process.argv.slice(2);
if (!program || !log) throw new Error('Name a program and its log.');

/** A log is turned over at this many bytes, and so many that were full are kept. */
const most = 10_000_000;
const kept = 5;
/** Milliseconds after which a program counts as having begun. */
const begun = 5000;
const longestPause = 30_000;
const ofNoUse = 3;

/** A log that is turned over; what a full disk does not take is lost, and nothing else. */
class Log {
  #file;
  #size = 0;

  write(chunk) {
    try {
      if (this.#file === undefined) this.#open();
      if (this.#size + chunk.length > most) this.#turnOver();
      writeSync(this.#file, chunk);
      this.#size += chunk.length;
    } catch {
      // The disk is full, or the folder is gone: lines are lost, and tried again with the next.
    }
  }

  #open() {
    this.#file = openSync(
      log,
      constants.O_WRONLY | constants.O_CREAT | constants.O_APPEND | constants.O_NOFOLLOW,
      0o600,
    );
    chmodSync(log, 0o600);
    this.#size = fstatSync(this.#file).size;
  }

  #turnOver() {
    closeSync(this.#file);
    this.#file = undefined;
    for (let age = kept - 1; age >= 1; age -= 1) move(`${log}.${age}`, `${log}.${age + 1}`);
    move(log, `${log}.1`);
    this.#open();
  }
}

function move(from, to) {
  try {
    renameSync(from, to);
  } catch {
    // There is none of that age yet.
  }
}

const written = new Log();
const say = (text) => written.write(Buffer.from(`${JSON.stringify({ time: Date.now(), msg: text })}\n`));
const [uid, gid] = (process.env.COFFER_RUN_AS ?? '').split(':').filter(Boolean).map(Number);
const environment = Object.fromEntries(
  Object.entries(process.env).filter(([name]) => name !== 'COFFER_RUN_AS'),
);

let running;
let ending = false;
for (const signal of ['SIGTERM', 'SIGINT', 'SIGHUP'])
  process.on(signal, () => {
    ending = true;
    running?.kill('SIGTERM');
  });

/** Runs the program once; gives how it ended. */
function run() {
  // By the channel the program learns that nobody keeps it any more.
  running = spawn(process.execPath, [program], {
    env: environment,
    stdio: ['ignore', 'pipe', 'pipe', 'ipc'],
    ...(uid !== undefined && { uid, gid }),
  });
  running.stdout.on('data', (chunk) => written.write(chunk));
  running.stderr.on('data', (chunk) => written.write(chunk));
  return new Promise((resolve) => {
    running.once('error', (error) => resolve({ code: 1, signal: null, why: error.message }));
    running.once('close', (code, signal) => resolve({ code, signal, why: signal ?? `code ${code}` }));
  });
}

let pause = 0;
for (let lived = false; ;) {
  const from = Date.now();
  const { code, signal, why } = await run();
  const long = Date.now() - from >= begun;
  if (ending || code === 0 || code === ofNoUse || !(lived || long || signal))
    process.exit(ending ? 0 : (code ?? 1));
  lived = true;
  pause = long ? 1000 : Math.min(Math.max(1000, pause * 2), longestPause);
  say(`ended by ${why}; it is begun again in ${pause / 1000} s`);
  await setTimeout(pause);
  if (ending) process.exit(0);
}
