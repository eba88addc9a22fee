import * as v from 'valibot';
import { publishedAmount, publishedCount, publishedDay } from './published-scalars.ts';
import type { PublishedRow } from './schedule-column.ts';

const publishedProof = v.strictObject({
  name: v.string(),
  holds: v.boolean(),
  difference: publishedAmount,
});

/** A proof in its published form. */
export type PublishedProof = v.InferOutput<typeof publishedProof>;

/** The proofs of a schedule in the published form. */
export const publishedProofs = v.array(publishedProof);

/** What did not go as the terms say, in its published form. */
export const publishedNotice = { on: publishedDay, kind: v.string(), message: v.string() };

/** The numbers of the first and last row that were asked for. */
export const publishedRange = { from: publishedCount, to: publishedCount };

/** Amounts by keys. */
export function amountsOf<const Key extends string>(
  keys: readonly Key[],
): Readonly<Record<Key, typeof publishedAmount>> {
  return Object.fromEntries(keys.map((key) => [key, publishedAmount])) as Record<Key, typeof publishedAmount>;
}

/** What the published schedules of all kinds have. */
export interface PublishedSchedule {
  readonly kind: string;
  /** What was left open in the terms, worked out. */
  readonly solved?: Readonly<Record<string, string | number | undefined>>;
  readonly rows: readonly PublishedRow[];
  /** Of the rows that were asked for, where only some were. */
  readonly range?: Readonly<Record<string, string | number>>;
  readonly totals: Readonly<Record<string, string>>;
  /** What a debt and the fund that repays it come to. */
  readonly together?: Readonly<Record<string, string>>;
  readonly notices?: readonly v.InferOutput<v.StrictObjectSchema<typeof publishedNotice, undefined>>[];
  readonly proofs: readonly PublishedProof[];
}
