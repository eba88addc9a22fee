import { availableParallelism } from 'node:os';
import { pathToFileURL } from 'node:url';
import { join } from 'node:path';
import { Piscina } from 'piscina';
import type { Logger } from 'pino';
import type { AskedOf, ItemOf, MadeOf, Share, WorkName } from './works.ts';

/** Instruments in the first share that a thread is given; later ones follow what it got through. */
const firstShare = 32;
const largestShare = 512;

/** No share takes longer, unless its thread is broken. */
const longest = 120_000;

/**
 * The threads in which figures are worked out, so that the server always answers. An instrument always goes to the same
 * thread, which remembers what its version makes. A call has one share at a time in each, so that calls take turns.
 */
export class FigureThreads {
  private readonly threads: readonly Piscina[];

  /** @param folder where the built worker is */
  constructor(folder: string, logger: Logger) {
    const many = Math.min(4, Math.max(2, availableParallelism()));
    this.threads = Array.from({ length: many }, () => {
      const thread = new Piscina({
        filename: pathToFileURL(join(folder, 'figure-worker.mjs')).href,
        minThreads: 1,
        maxThreads: 1,
        workerData: { threads: many },
      });
      // A thread that fails is replaced; its share is refused, and other calls go on.
      thread.on('error', (error) => logger.error(error, 'a thread of figures failed'));
      return thread;
    });
  }

  /** Works something out for one instrument. */
  async one<Name extends WorkName>(
    work: Name,
    asked: AskedOf<Name>,
    item: ItemOf<Name>,
  ): Promise<MadeOf<Name>> {
    const [made] = await this.each(work, asked, [item]);
    return made as MadeOf<Name>;
  }

  /** Works something out for each instrument of a list; the answers come in the order of the list. */
  async each<Name extends WorkName>(
    work: Name,
    asked: AskedOf<Name>,
    items: readonly ItemOf<Name>[],
  ): Promise<MadeOf<Name>[]> {
    const made = new Array<MadeOf<Name>>(items.length);
    const placesOf = this.threads.map((): number[] => []);
    for (const [place, { version }] of items.entries()) placesOf[this.threadOf(version.id)]?.push(place);
    await Promise.all(
      this.threads.map(async (thread, at) => {
        const places = placesOf[at] ?? [];
        let size = firstShare;
        for (let from = 0; from < places.length;) {
          const share = places.slice(from, from + size);
          const task: Share<Name> = {
            work,
            asked,
            items: share.map((place) => items[place] as ItemOf<Name>),
          };
          const signal = AbortSignal.timeout(longest);
          const done = (await thread.run(task, { signal })) as MadeOf<Name>[];
          for (const [index, one] of done.entries()) made[share[index] as number] = one;
          from += done.length;
          size = Math.min(largestShare, Math.max(1, 2 * done.length));
        }
      }),
    );
    return made;
  }

  async end(): Promise<void> {
    await Promise.all(this.threads.map((thread) => thread.destroy()));
  }

  /** The thread of an instrument: by its id, whose digits are as good as random. */
  private threadOf(id: string): number {
    let sum = 0;
    for (let at = 0; at < id.length; at += 1) sum = (31 * sum + id.charCodeAt(at)) % 65_521;
    return sum % this.threads.length;
  }
}
