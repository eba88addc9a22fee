import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { oneOf, type Draw } from '../play/drawn.ts';
import type { Place } from './place.ts';
import type { Work } from './works/work.ts';

/** Something that befalls a work while it is done. */
export interface Fault {
  readonly name: string;
  /** Befalls it, at a moment of the work. */
  readonly befall: (place: Place, draw: Draw, server: number) => Promise<void> | void;
  /** Whether the server lives through it. */
  readonly survived: boolean;
  /** Whether the same work is sent to two servers on the one database. */
  readonly twice?: true;
}

const killedServer: Fault = {
  name: 'the server is killed',
  befall: (place, _, server) => place.server(server).kill(),
  survived: false,
};
const killedKeeper: Fault = {
  name: 'who keeps the server running is killed',
  befall: (place, _, server) => place.server(server).killKeeper(),
  survived: false,
};
const endedThreads: Fault = {
  name: 'the threads of the server end',
  befall: (place, _, server) => place.server(server).endThreads(),
  survived: true,
};
const killedDatabase: Fault = {
  name: 'the database is killed',
  befall: (place) => place.killDatabase(true),
  survived: true,
};
const killedBackend: Fault = {
  name: 'a process of the database is killed',
  befall: (place) => place.killDatabase(false),
  survived: true,
};
const cutConnections: Fault = {
  name: 'the connections are cut',
  befall: (place) => place.cutConnections(),
  survived: true,
};
const fullDisk: Fault = {
  name: 'the disk is full',
  befall: (place, draw) => place.fillDisk(draw(3) === 0 ? 0 : draw(4_000_000)),
  survived: true,
};
const twoServers: Fault = {
  name: 'two servers do it at once',
  befall: () => undefined,
  survived: true,
  twice: true,
};
const killedOfTwo: Fault = {
  name: 'two servers do it at once and one is killed',
  befall: (place) => place.server(0).kill(),
  survived: false,
  twice: true,
};
const killedCommand: Fault = {
  name: 'the command is killed',
  befall: (place) => place.killCommand(),
  survived: true,
};
const killedElsewhere = (folder: string): Fault => ({
  name: 'the database that it makes is killed',
  befall: (place) => place.killDatabase(true, join(place.home, folder)),
  survived: true,
});

/** Where a command makes a database of its own. */
const madeBy: Readonly<Record<string, string>> = { restoring: 'restored', 'starting twice': 'begun' };

/** What befalls a work, and when in its course. */
export function someFault(
  draw: Draw,
  place: Place,
  { of, name, lasts, server = 0 }: Work,
): { readonly fault: Fault; readonly after: number } {
  const ofDisk = place.ownDisk ? [fullDisk] : [];
  const ofTwo = server === 0 ? [twoServers, killedOfTwo] : [];
  const made = madeBy[name];
  const faults =
    of === 'call'
      ? [
          ...[killedServer, killedServer, killedKeeper, endedThreads],
          ...[killedDatabase, killedBackend, cutConnections, ...ofTwo, ...ofDisk],
        ]
      : [
          killedCommand,
          killedCommand,
          made === undefined ? killedDatabase : killedElsewhere(made),
          ...ofDisk,
        ];
  return { fault: oneOf(draw, faults) as Fault, after: draw(lasts) };
}

/** What came of a work that something befell. */
export interface Befallen {
  /** What was said of it, or that nobody knows. */
  readonly told: readonly string[];
  /** Whether it was hit in its middle: between the beginning and the end of its transaction, or while its command ran. */
  readonly within: boolean;
}

/** Does a work while something befalls it: so long after it has begun to change something, where it does. */
export async function befallen(
  place: Place,
  draw: Draw,
  work: Work,
  fault: Fault,
  after: number,
): Promise<Befallen> {
  // A disk fills up beforehand as well as meanwhile.
  const early = fault === fullDisk && draw(2) === 0;
  if (early) await fault.befall(place, draw, work.server ?? 0);
  let ended = false;
  const acting = [work.act(work.server ?? 0), ...(fault.twice ? [work.act(1)] : [])];
  const all = Promise.allSettled(acting).then(() => (ended = true));
  if (work.of === 'call') await place.begunTransaction(() => ended);
  await Promise.race([setTimeout(after), all]);
  const within = work.of === 'call' ? await place.inTransaction() : !ended;
  if (!early) await fault.befall(place, draw, work.server ?? 0);
  return { told: await Promise.all(acting), within };
}
