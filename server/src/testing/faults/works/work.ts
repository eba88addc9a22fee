import { randomUUID } from 'node:crypto';
import { confirmCodes } from '@coffer/contract';
import type { Draw } from '../../play/drawn.ts';
import { passwords, type Caller } from '../../test-server.ts';
import type { Place } from '../place.ts';

/** Something that is done wholly or not at all, whatever befalls it. */
export interface Work {
  readonly name: string;
  /** Does it; gives what was said of it: that it is done, why it is not, or nothing where the connection broke. */
  readonly act: (at?: number) => Promise<string>;
  /** Whether it is done; throws where it is done by half. */
  readonly isDone: () => Promise<boolean>;
  /** A call of the server, or a command of its own. */
  readonly of: 'call' | 'command';
  /** Milliseconds within which it mostly ends once it has begun to change something. */
  readonly lasts: number;
  /** Which of the place's servers it is sent to; the first where it is left out. */
  readonly server?: number;
  /** What somebody else looks at meanwhile, who sees all of it or nothing: an address, and perhaps which part of its answer. */
  readonly seen?: Seen;
  /** Whether it cannot be done twice, and is refused once it is done. */
  readonly once?: true;
  /** Takes away what it made for itself. */
  readonly clean?: () => Promise<void> | void;
}

/** What somebody looks at. */
export interface Seen {
  readonly path: string;
  /** The part of the answer that is of one moment, where not all of it is: each part is read by itself. */
  readonly part?: string;
  /** What of it is another each time that the same is done again. */
  readonly but?: readonly string[];
}

/** A kind of work: a piece of it as the books are; nothing where there is none to do. */
export type Kind = (draw: Draw, place: Place, by: People) => Promise<Work | undefined>;

/** That a work is done. */
export const said = 'done';

/** Whatever is asked about is meant. */
export const confirm = confirmCodes;

/** Who prepares, who reviews, who administers, and who only reads. */
export type People = Readonly<Record<'ilka' | 'bram' | 'sunniva' | 'tobiah', Caller>>;

/** Those who work, logged in at the first server; what they send goes to any. */
export async function people(place: Place): Promise<People> {
  const callers = {
    ilka: place.caller(),
    bram: place.caller(),
    sunniva: place.caller(),
    tobiah: place.caller(),
  };
  for (const [name, caller] of Object.entries(callers)) {
    const { status, text } = await caller.logIn(name, passwords[name as keyof People]);
    if (status !== 200) throw new Error(text);
  }
  return callers;
}

/** What came of a call that a place may not have been able to make. */
export async function sent(path: string, call: () => ReturnType<Caller['call']>): Promise<string> {
  try {
    const { status, text, body } = await call();
    if (status === 200) return said;
    // What the place could not do, or somebody else has done meanwhile; anything else is a mistake of the work.
    const { code } = (body as { error?: { code: string } }).error ?? {};
    if (status >= 500 || (status === 409 && code !== 'to-confirm')) return `${status} ${text}`;
    throw new Error(`${path}: ${status} ${text}`);
  } catch (error) {
    // The connection broke, or what came of it was no answer.
    if (error instanceof TypeError || error instanceof SyntaxError) return 'nothing';
    throw error;
  }
}

/** A call that is sent with one key however often it is tried. */
export function sending(
  place: Place,
  by: Caller,
  path: string,
  body: object,
  method: 'POST' | 'PUT' = 'POST',
): Work['act'] {
  const key = { 'idempotency-key': randomUUID() };
  return (at = 0) => sent(path, () => by.at(place.address(at)).call(method, path, body, key));
}

/** How much is kept of what works add to. */
export type Counts = Record<
  | 'instruments'
  | 'versions'
  | 'handed'
  | 'closed'
  | 'open'
  | 'reported'
  | 'entries'
  | 'papers'
  | 'links'
  | 'away'
  | 'told',
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
    (select count(*)::int from paper) as papers,
    (select count(*)::int from link where used_at is null and taken_back_at is null) as links,
    (select count(*)::int from member where suspended_at is not null) as away,
    (select count(*)::int from audit_event where action not like 'log-in%') as told`);
}

/** Whether everything that a work adds has come, or nothing of it; throws where only some has. */
async function cameWhole(place: Place, before: Counts, adds: Partial<Counts>): Promise<boolean> {
  const now = await counted(place);
  const keys = Object.keys(adds) as (keyof Counts)[];
  const came = keys.filter((key) => now[key] - before[key] === adds[key]);
  if (came.length === keys.length && now.told > before.told) return true;
  if (JSON.stringify(now) === JSON.stringify(before)) return false;
  throw new Error(
    `Done by half: ${JSON.stringify(before)} became ${JSON.stringify(now)}, where ${JSON.stringify(adds)} comes.`,
  );
}

/** A work by how much of what is kept it adds; nothing else changes, and where it adds nothing the trail tells of nothing. */
export async function adding(
  place: Place,
  work: Pick<Work, 'name' | 'act' | 'lasts' | 'seen'>,
  adds: Partial<Counts>,
): Promise<Work> {
  const before = await counted(place);
  return { ...work, of: 'call', isDone: () => cameWhole(place, before, adds) };
}
