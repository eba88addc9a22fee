import * as v from 'valibot';
import { comparedFigures } from '@coffer/core';
import { dayText } from '../document/scalars.ts';
import { difference, happenedInMonth } from './difference-views.ts';
import { minorUnits } from './ids.ts';

/** What a close told of an instrument beside its figures, as it is kept: the month as it was approved. */
export const toldAtClose = v.strictObject({
  /** As it was called then. */
  name: v.string(),
  /** Against the month before; of what the month reports no more as well. */
  difference: v.strictObject({
    asScheduled: v.boolean(),
    ...happenedInMonth,
    ...v.entriesFromList(comparedFigures, difference),
  }),
  /** Payments that fell due in the month, and how many of them were recorded. */
  payments: v.strictObject({ due: v.number(), recorded: v.number() }),
  /** Those that were not: taken as paid as scheduled. */
  unrecorded: v.array(v.strictObject({ due: dayText, amount: minorUnits })),
  /** The day of a rate that was to be fixed and was not: interest went on at the rate before. */
  fixingMissing: v.optional(dayText),
});
export type ToldAtClose = v.InferOutput<typeof toldAtClose>;
