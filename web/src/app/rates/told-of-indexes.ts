import { indexKey, showDay, type KeptIndex, type PublishedIndexes, showRate } from '@coffer/contract';
import type { ToldIndex } from '../fields/field';

/** What the company's indexes have published, by the key of the index. */
export function publishedIn(indexes: readonly KeptIndex[]): PublishedIndexes {
  return Object.fromEntries(
    indexes.map(({ name, fixings }) => [indexKey(name), fixings.map(({ on, rate }) => ({ on, rate }))]),
  );
}

/** What a form is told of the company's indexes. */
export function toldOfIndexes(indexes: readonly KeptIndex[]): ToldIndex[] {
  return indexes.map(({ name, fixings: [last] }) => ({
    name,
    last: last ? `kept: ${showRate(last.rate)} from ${showDay(last.on)}` : 'kept, without a fixing yet',
  }));
}
