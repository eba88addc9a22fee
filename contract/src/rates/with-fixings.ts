import * as v from 'valibot';
import { frequencies } from '@coffer/core';
import { dayText, signedRateText } from '../document/scalars.ts';
import { followIndex, indexKey, type Published } from './follow-index.ts';

/** What a company's indexes have published, by the key of the index. */
export type PublishedIndexes = Readonly<Record<string, readonly Published[]>>;

/** The last day that a document may name. */
const lastDayOfAll = '2199-12-31';

/** What of a document, whole or not yet, must stand before its rate can follow an index. */
const following = v.looseObject({
  start: dayText,
  rate: v.looseObject({
    annual: v.optional(v.string()),
    index: v.looseObject({
      name: v.string(),
      resetEvery: v.optional(v.picklist(frequencies)),
      fixings: v.array(v.looseObject({ on: dayText, rate: signedRateText })),
    }),
  }),
  payments: v.optional(v.looseObject({ monthEnd: v.optional(v.boolean()) })),
});

/**
 * A document that is being made or taken on, with the fixings that it lacks of an index of the company; as it is where it
 * follows none. Fixings that it has stay.
 */
export function withFixings<Value>(document: Value, published: PublishedIndexes): Value {
  const read = v.safeParse(following, document);
  const kept = read.success ? published[indexKey(read.output.rate.index.name)] : undefined;
  if (!read.success || !kept) return document;
  const followed = followIndex(read.output, [], kept, lastDayOfAll)?.document;
  return { ...document, rate: followed?.rate };
}

/** Whether a document follows an index that has a fixing on or before its start, so that it needs no rate until the first. */
export function hasRateAtStart(document: unknown): boolean {
  const read = v.safeParse(following, document);
  return read.success && read.output.rate.index.fixings.some(({ on }) => on <= read.output.start);
}
