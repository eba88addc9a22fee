import { setImmediate as breathe } from 'node:timers/promises';

/** Milliseconds of work after which other calls get their turn. */
const share = 12;

/** Works through a list in shares measured by time, so that no other call waits for all of it. */
export async function inShares<Item>(
  items: readonly Item[],
  work: (item: Item, at: number) => void,
): Promise<void> {
  let begun = performance.now();
  for (const [at, item] of items.entries()) {
    work(item, at);
    if (performance.now() - begun < share) continue;
    await breathe();
    begun = performance.now();
  }
}
