import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { befallen, someFault } from './testing/faults/faults.ts';
import { Place } from './testing/faults/place.ts';
import { Onlooker, stateNow } from './testing/faults/onlooker.ts';
import { someWork } from './testing/faults/works/some-work.ts';
import { people, said, type People } from './testing/faults/works/work.ts';
import { drawn } from './testing/play/drawn.ts';

// `./coffer hunt --faults` asks for more, and names the seed of each life; with it a life is lived once more.
const moments = Number(process.env['COFFER_FAULTS'] ?? 10);
const seed = Number(process.env['COFFER_SEED'] ?? 20_260_930);
/** Moments that befall one company before another begins. */
const aLife = 25;
/** What a moment may last at most, its mending included. */
const longest = 60_000;

let place: Place;
beforeAll(async () => {
  place = new Place();
  await place.make();
  if (!place.ownDisk) process.stdout.write('No disk of its own can be mounted here: none is filled.\n');
}, 120_000);
afterAll(() => place.end());

/** One moment, and whether it counts: a work is done while something befalls it, what has broken is mended, and everything is held against it. */
async function moment(
  draw: ReturnType<typeof drawn>,
  by: People,
): Promise<{ within: boolean; about: string }> {
  const work = await someWork(draw, place, by);
  const server = place.server(work.server);
  const { fault, after } = someFault(draw, place, work);
  if (fault.twice) await place.server(1).start();
  const about = `${work.name}: ${fault.name} after ${after} ms`;
  const look = async (): Promise<string> => (work.seen === undefined ? '' : stateNow(by.sunniva, work.seen));
  const before = await look();
  const onlooker = work.seen === undefined ? undefined : new Onlooker(by.sunniva, work.seen);
  try {
    const { told, within } = await befallen(place, draw, work, fault, after);
    place.emptyDisk();
    place.startCluster();
    if (fault.survived) expect(server.runs(), `${about}; the server has ended`).toBe(true);
    await server.start();
    await place.server().start();
    const done = await work.isDone();
    const wrong = await onlooker?.end([before, await look()]);
    expect(wrong ?? [], `${about}; what others saw`).toEqual([]);
    // What was said to be done is done; a call that is sent once more with its key is done once.
    if (told.includes(said)) expect(done, `${about}; it was said to be done`).toBe(true);
    if (!done || (work.of === 'call' && work.once === undefined)) {
      expect(await work.act(work.server), `${about}; tried again`).toBe(said);
      expect(await work.isDone(), `${about}; tried again`).toBe(true);
    }
    expect(await place.disagreements(), about).toEqual([]);
    return {
      within,
      about: `${about}: ${done ? 'done' : 'not done'}${within ? '' : ', not hit in its middle'}`,
    };
  } catch (error) {
    throw new Error(about, { cause: error });
  } finally {
    await onlooker?.end([]);
    await work.clean?.();
  }
}

// Atomicity and durability of what was acknowledged (Haerder and Reuter, 1983), for each work as a whole.
describe('whatever befalls the place', () => {
  const lives = Array.from({ length: Math.ceil(moments / aLife) }, (_, at) => seed + at);
  it.each(lives)(
    'every work is done wholly or not at all, in the life of seed %i',
    async (from) => {
      const draw = drawn(from);
      await place.begin();
      await place.server().start();
      const by = await people(place);
      const many = Math.min(aLife, moments - (from - seed) * aLife);
      // A moment counts where the work was hit in its middle; others are lived through as well.
      for (let counted = 0, all = 0; counted < many; all += 1) {
        expect(all, 'moments that hit nothing').toBeLessThan(6 * aLife);
        const { within, about } = await moment(draw, by);
        if (within) counted += 1;
        if (process.env['COFFER_FAULTS'])
          process.stdout.write(`  ${counted} of ${many}, moment ${all + 1} of seed ${from}: ${about}\n`);
      }
    },
    aLife * longest,
  );
});
