import { randomUUID } from 'node:crypto';
import { existsSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { formatAmount } from '@coffer/core';
import { confirmCodes } from '@coffer/contract';
import { oneOf, type Draw } from '../play/drawn.ts';
import { Caller, loanDocument, passwords } from '../test-server.ts';
import type { Place } from './place.ts';

/** Something that is done wholly or not at all, whatever befalls it. */
export interface Work {
  readonly name: 'recording' | 'taking on' | 'handing over' | 'approving' | 'backing up' | 'restoring';
  /** Does it; gives what was said of it: that it is done, why it is not, or nothing where the connection broke. */
  readonly act: (at?: number) => Promise<string>;
  /** Whether it is done; throws where it is done by half. */
  readonly isDone: () => Promise<boolean>;
  /** A call of the server, or a command of its own. */
  readonly of: 'call' | 'command';
  /** Takes away what it made for itself. */
  readonly clean?: () => void;
}

/** That a work is done. */
export const said = 'done';

/** Whatever is asked about is meant. */
const confirm = confirmCodes;
/** The one who prepares, and the one who reviews. */
export interface People {
  readonly ilka: Caller;
  readonly bram: Caller;
}

/** Those who work, logged in at the first server; what they send goes to either. */
export async function people(place: Place): Promise<People> {
  const [ilka, bram] = [new Caller(place.address()), new Caller(place.address())];
  for (const [caller, name] of [
    [ilka, 'ilka'],
    [bram, 'bram'],
  ] as const) {
    const { status, text } = await caller.logIn(name, passwords[name]);
    if (status !== 200) throw new Error(text);
  }
  return { ilka, bram };
}

/** A piece of work as the books are; nothing where there is none of its kind to do. */
export async function someWork(draw: Draw, place: Place, by: People): Promise<Work> {
  const kinds = [
    takingOn,
    takingOn,
    handingOver,
    approving,
    approving,
    recording,
    recording,
    recording,
    backingUp,
    restoring,
  ];
  for (;;) {
    const kind = oneOf(draw, kinds) as (typeof kinds)[number];
    const work = await kind(draw, place, by);
    if (work) return work;
  }
}

/** A call that is sent with one key however often it is tried. */
function sending(place: Place, by: Caller, path: string, body: object): Work['act'] {
  const key = { 'idempotency-key': randomUUID() };
  return async (at = 0) => {
    try {
      const { status, text, body: answer } = await by.at(place.address(at)).call('POST', path, body, key);
      if (status === 200) return said;
      // What the place could not do, or somebody else has done meanwhile; anything else is a mistake of the work.
      const { code } = (answer as { error?: { code: string } }).error ?? {};
      if (status >= 500 || (status === 409 && code !== 'to-confirm')) return `${status} ${text}`;
      throw new Error(`${path}: ${status} ${text}`);
    } catch (error) {
      // The connection broke, or what came of it was no answer.
      if (error instanceof TypeError || error instanceof SyntaxError) return 'nothing';
      throw error;
    }
  };
}

/** How much is kept of what works add to. */
type Counts = Record<
  'instruments' | 'versions' | 'handed' | 'closed' | 'open' | 'reported' | 'entries' | 'told',
  number
>;

function counted(place: Place): Promise<Counts> {
  return place.asked<Counts>(`select
    (select count(*)::int from instrument) as instruments,
    (select count(*)::int from instrument_version) as versions,
    (select count(*)::int from period_step where step = 'handed-over') as handed,
    (select count(*)::int from period where state = 'closed') as closed,
    (select count(*)::int from period where state <> 'closed') as open,
    (select count(*)::int from reported_position) as reported,
    (select count(*)::int from entry) as entries,
    (select count(*)::int from audit_event) as told`);
}

/** Whether everything that a work adds has come, or nothing of it; throws where only some has. */
async function cameWhole(place: Place, before: Counts, adds: Partial<Counts>): Promise<boolean> {
  const now = await counted(place);
  const keys = Object.keys(adds) as (keyof Counts)[];
  const came = keys.filter((key) => now[key] - before[key] === adds[key]);
  if (came.length === keys.length) return true;
  const none = (Object.keys(now) as (keyof Counts)[]).every(
    (key) => key === 'told' || now[key] === before[key],
  );
  if (none) return false;
  throw new Error(
    `Done by half: ${JSON.stringify(before)} became ${JSON.stringify(now)}, where ${JSON.stringify(adds)} comes.`,
  );
}

async function adding(
  place: Place,
  name: Work['name'],
  act: Work['act'],
  adds: Partial<Counts>,
): Promise<Work> {
  const before = await counted(place);
  return { name, of: 'call', act, isDone: () => cameWhole(place, before, adds) };
}

interface Due {
  readonly instrumentId: string;
  readonly version: number;
  readonly due: string;
  readonly amount: number;
  readonly recorded: readonly object[];
}

async function recording(draw: Draw, place: Place, { ilka }: People): Promise<Work | undefined> {
  const { body } = await ilka.call('GET', '/api/payments');
  const open = (body.payments as Due[]).filter(({ recorded }) => recorded.length === 0);
  const payments = open.slice(0, 1 + draw(12)).map(({ instrumentId, version, due, amount }) => ({
    instrumentId,
    version,
    due,
    on: due,
    amount: formatAmount(amount, 2),
  }));
  if (payments.length === 0) return undefined;
  const versions = new Set(payments.map(({ instrumentId }) => instrumentId)).size;
  return adding(place, 'recording', sending(place, ilka, '/api/payments', { payments, confirm }), {
    versions,
  });
}

async function takingOn(draw: Draw, place: Place, { ilka }: People): Promise<Work> {
  const many = 1 + draw(60);
  const name = randomUUID().slice(0, 8);
  const documents = Array.from({ length: many }, (_, at) => loanDocument(`Loan ${name} ${at}`));
  const act = sending(place, ilka, '/api/instruments/many', { documents, confirm });
  return adding(place, 'taking on', act, { instruments: many, versions: many });
}

/** The open month, and what it comes to. */
async function openMonth(
  place: Place,
  by: Caller,
): Promise<{
  path: string;
  digest: string;
  state: string;
  rows: number;
  draftCount: number;
  reversalCount: number;
}> {
  const { ends } = await place.asked<{ ends: string }>(
    `select ends_on::text as ends from period where company_id = 1 and state <> 'closed'`,
  );
  const path = `/api/periods/${ends}`;
  const { status, body, text } = await by.call('GET', `${path}/close`);
  if (status !== 200) throw new Error(text);
  const { digest, state, rows, draftCount, reversalCount } = body;
  return { path, digest, state, rows: rows.length, draftCount, reversalCount };
}

async function handingOver(_: Draw, place: Place, { ilka }: People): Promise<Work> {
  const { path, digest } = await openMonth(place, ilka);
  return adding(place, 'handing over', sending(place, ilka, `${path}/hand-over`, { digest, confirm }), {
    handed: 1,
  });
}

async function approving(_: Draw, place: Place, { ilka, bram }: People): Promise<Work> {
  const { path, digest } = await openMonth(place, ilka);
  const handed = await ilka.call('POST', `${path}/hand-over`, { digest, confirm });
  if (handed.status !== 200) throw new Error(handed.text);
  const { rows, draftCount, reversalCount } = await openMonth(place, bram);
  const act = sending(place, bram, `${path}/approve`, { digest, confirm });
  return adding(place, 'approving', act, { closed: 1, reported: rows, entries: draftCount + reversalCount });
}

/** A command of the scripts, which may be killed. */
function command(place: Place, commands: string, home = place.home): Work['act'] {
  return async () => ((await place.command(commands, home)) === 0 ? said : 'nothing');
}

function backingUp(_: Draw, place: Place): Promise<Work> {
  const file = join(place.home, `${randomUUID()}.backup`);
  return Promise.resolve({
    name: 'backing up',
    of: 'command',
    act: command(place, `make_backup '${file}'`),
    isDone: () => {
      if (!existsSync(file)) return Promise.resolve(false);
      // It is there under its name: then all of it is.
      const listed = place.script(
        `tar -xOf '${file}' backup/database.dump >'${file}.dump' && "$(postgres_program pg_restore)" -f /dev/null '${file}.dump'`,
      );
      if (listed.status !== 0) throw new Error(`Half a backup: ${listed.said}`);
      return Promise.resolve(true);
    },
    clean: () => {
      for (const made of [file, `${file}.dump`]) rmSync(made, { force: true });
    },
  });
}

function restoring(_: Draw, place: Place): Promise<Work> {
  const file = join(place.home, 'to-restore.backup');
  const home = join(place.home, 'restored');
  if (!existsSync(file)) {
    const made = place.script(`make_backup '${file}'`);
    if (made.status !== 0) throw new Error(made.said);
  }
  return Promise.resolve({
    name: 'restoring',
    of: 'command',
    act: command(place, `restore_backup '${file}'`, home),
    isDone: () => {
      if (!existsSync(join(home, 'postgres/PG_VERSION'))) return Promise.resolve(false);
      place.startCluster(home);
      const there = place.script(
        `test "$(owner_sql '${home}' "select to_regclass('public.company') is not null")" = t`,
        home,
      );
      if (there.status !== 0) return Promise.resolve(false);
      // With a company in it, it is the whole installation: its secret, and everything agrees.
      const whole = place.script(
        `cmp '${home}/secrets/session-secret' '${place.home}/secrets/session-secret'
         COFFER_DATABASE=$(database_url '${home}') node "$root/dist/verify.mjs"`,
        home,
      );
      if (whole.status !== 0) throw new Error(`Restored by half: ${whole.said}`);
      return Promise.resolve(true);
    },
    clean: () => {
      if (existsSync(join(home, 'postgres/PG_VERSION'))) place.script(`stop_cluster '${home}'`, home);
      rmSync(home, { recursive: true, force: true });
    },
  });
}
