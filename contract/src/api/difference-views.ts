import * as v from 'valibot';
import { changeReasons, comparedFigures, moveReasons } from '@coffer/core';
import { dayText } from '../document/scalars.ts';
import { instrumentId, minorUnits } from './ids.ts';

/** Why a figure differs from what the month before reported, in the order in which it is told. */
export const differenceReasons = [
  /** What closed months should have held, booked in this one. */
  'catch-up',
  /** The month before as it should have been reported. */
  'put-right',
  'new',
  'settled',
  'withdrawn',
  /** Too small to be booked, in this month or in the one before. */
  'left-out',
  ...changeReasons,
] as const;
export type DifferenceReason = (typeof differenceReasons)[number];

/** What interest was worked out over on the whole, in a month and in the one before. */
const averages = v.strictObject({
  balance: v.number(),
  /** As a share: 0.0425 for 4.25 %. */
  rate: v.number(),
  /** As the day count counts them. */
  days: v.number(),
});

/** A figure of a month beside what the month before reported; minor units. */
export const difference = v.strictObject({
  now: minorUnits,
  change: minorUnits,
  /** They sum to the change; none is zero. */
  parts: v.array(v.strictObject({ reason: v.picklist(differenceReasons), amount: minorUnits })),
  /** Of interest: what it was worked out over, before and now. */
  over: v.optional(v.tuple([averages, averages])),
});
export type Difference = v.InferOutput<typeof difference>;

/** What happened to an instrument in a month, and how its agreed rate changed; months closed before it was kept have neither. */
export const happenedInMonth = {
  happened: v.optional(v.array(v.picklist(moveReasons)), []),
  /** As shares, before the month before began and as this one ends; only where they are not the same. */
  rates: v.optional(v.tuple([v.number(), v.number()])),
} as const;

/** An instrument whose month is held against the month before. */
export const differenceLine = v.strictObject({
  id: instrumentId,
  name: v.string(),
  /** Whether nothing happened but what was agreed before: payments on their day, and days. */
  asScheduled: v.boolean(),
  ...happenedInMonth,
  ...v.entriesFromList(comparedFigures, difference),
});
export type DifferenceLine = v.InferOutput<typeof differenceLine>;

/** A month held against the month before as reported: what has a cause first, largest first. */
export const differencesView = v.strictObject({
  endsOn: dayText,
  /** The end of the month before; null where the books have none. */
  before: v.nullable(dayText),
  lines: v.array(differenceLine),
});
export type DifferencesView = v.InferOutput<typeof differencesView>;
