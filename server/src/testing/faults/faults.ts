import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { oneOf, type Draw } from '../play/drawn.ts';
import type { Place } from './place.ts';
import type { Work } from './works.ts';

/** Something that befalls a work while it is done. */
export interface Fault {
  readonly name: string;
  /** Befalls it, at a moment of the work. */
  readonly befall: (place: Place, draw: Draw) => Promise<void> | void;
  /** Whether the server lives through it. */
  readonly survived: boolean;
  /** Whether the same work is sent to two servers on the one database. */
  readonly twice?: true;
}

/** Milliseconds within which works mostly end once they have begun: what befalls them does so meanwhile, and now and then right after. */
const lasts: Readonly<Record<Work['name'], number>> = {
  recording: 120,
  'taking on': 250,
  'handing over': 700,
  approving: 1200,
  'backing up': 1500,
  restoring: 6000,
};

const killedServer: Fault = {
  name: 'the server is killed',
  befall: (place) => place.killServer(),
  survived: false,
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
  befall: (place) => place.killServer(),
  survived: false,
  twice: true,
};
const killedCommand: Fault = {
  name: 'the command is killed',
  befall: (place) => place.killCommand(),
  survived: true,
};
const killedRestored: Fault = {
  name: 'the database that it comes into is killed',
  befall: (place) => place.killDatabase(true, join(place.home, 'restored')),
  survived: true,
};

/** What befalls a work, and when in its course. */
export function someFault(
  draw: Draw,
  place: Place,
  { of, name }: Work,
): { readonly fault: Fault; readonly after: number } {
  const ofDisk = place.ownDisk ? [fullDisk] : [];
  const faults =
    of === 'call'
      ? [
          killedServer,
          killedServer,
          killedDatabase,
          killedBackend,
          cutConnections,
          twoServers,
          killedOfTwo,
          ...ofDisk,
        ]
      : [killedCommand, killedCommand, name === 'restoring' ? killedRestored : killedDatabase, ...ofDisk];
  return { fault: oneOf(draw, faults) as Fault, after: draw(lasts[name]) };
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
  if (early) await fault.befall(place, draw);
  let ended = false;
  const acting = [work.act(0), ...(fault.twice ? [work.act(1)] : [])];
  const all = Promise.allSettled(acting).then(() => (ended = true));
  if (work.of === 'call') await place.begunTransaction(() => ended);
  await Promise.race([setTimeout(after), all]);
  const within = work.of === 'call' ? await place.inTransaction() : !ended;
  if (!early) await fault.befall(place, draw);
  return { told: await Promise.all(acting), within };
}
