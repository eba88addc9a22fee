import * as v from 'valibot';
import { compoundings, dayCountNames, frequencies } from '@coffer/core';
import { dayText, rateOrUnknown, rateText, shortText, signedRateText } from './scalars.ts';

const afterRate = v.optional(v.picklist(['re-level', 'keep']));

/** A rate and how interest is worked out from it. */
export const rateDocument = v.strictObject({
  annual: v.optional(rateOrUnknown),
  compounding: v.optional(v.picklist(compoundings)),
  dayCount: v.optional(v.picklist(dayCountNames)),
  steps: v.optional(
    v.pipe(
      v.array(v.strictObject({ from: dayText, annual: rateText, payment: afterRate })),
      v.maxLength(1200, 'expected at most 1200 steps.'),
    ),
  ),
  index: v.optional(
    v.strictObject({
      name: shortText,
      margin: v.optional(signedRateText),
      floor: v.optional(signedRateText),
      cap: v.optional(signedRateText),
      resetEvery: v.optional(v.picklist(frequencies)),
      payment: afterRate,
      fixings: v.pipe(
        v.array(v.strictObject({ on: dayText, rate: signedRateText })),
        v.maxLength(5000, 'expected at most 5000 fixings.'),
      ),
    }),
  ),
});

export type RateDocument = v.InferOutput<typeof rateDocument>;
