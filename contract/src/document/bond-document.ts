import * as v from 'valibot';
import { couponFrequencies, dayCountNames } from '@coffer/core';
import { descriptionEntries } from './loan-document.ts';
import { amountText, currencyCode, dayText, rateText } from './scalars.ts';

const priceText = v.pipe(
  v.string(),
  v.regex(/^\d{1,4}(\.\d{1,10})?$/, 'expected a price in percent of face such as "96.7500".'),
  v.check((text) => Number(text) > 0 && Number(text) <= 1000, 'a price must be above 0 and at most 1000.'),
);

/** A bond as a document. */
export const bondDocument = v.strictObject({
  ...descriptionEntries,
  kind: v.literal('bond'),
  class: v.optional(v.picklist(['bond', 'note'])),
  currency: currencyCode,
  face: amountText,
  issued: dayText,
  matures: dayText,
  coupon: v.strictObject({
    annual: rateText,
    every: v.picklist(couponFrequencies),
    dayCount: v.optional(v.picklist(dayCountNames)),
    monthEnd: v.optional(v.boolean()),
  }),
  price: v.optional(priceText),
  yield: v.optional(rateText),
  amortization: v.optional(
    v.strictObject({
      method: v.optional(v.picklist(['effective'])),
      rate: v.optional(v.picklist(['yield', 'from-price'])),
    }),
  ),
  rounding: v.optional(v.strictObject({ interest: v.optional(v.picklist(['cent', 'unit'])) })),
});

export type BondDocument = v.InferOutput<typeof bondDocument>;
