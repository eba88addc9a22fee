import * as v from 'valibot';
import { amortizationMethods, couponFrequencies, dayCountNames } from '@coffer/core';
import { descriptionEntries, issueCosts } from '../loan/loan-document.ts';
import { presentation } from '../loan/loan-events-document.ts';
import {
  amountText,
  currencyCode,
  dayText,
  rateText,
  shortText,
  signedRateText,
} from '../../document/scalars.ts';

const priceText = v.pipe(
  v.string(),
  v.regex(/^\d{1,4}(\.\d{1,10})?$/, 'expected a price in percent of face such as "96.7500".'),
  v.check((text) => Number(text) > 0 && Number(text) <= 1000, 'a price must be above 0 and at most 1000.'),
);

const coupon = v.strictObject({
  annual: rateText,
  every: v.picklist(couponFrequencies),
  dayCount: v.optional(v.picklist(dayCountNames)),
  monthEnd: v.optional(v.boolean()),
  first: v.optional(dayText),
  last: v.optional(dayText),
});

/** How often the yield of a bond without coupons may be compounded. */
export const yieldCompoundings = ['annual', 'half-yearly', 'quarterly', 'monthly'] as const;

const yieldObject = v.strictObject({
  annual: v.optional(signedRateText),
  compounding: v.optional(v.picklist(yieldCompoundings)),
  dayCount: v.optional(v.picklist(dayCountNames)),
});

/**
 * Face redeemed before maturity: with a price, early, at that price; without one an instalment agreed at issue, due
 * at face on a coupon date.
 */
const redemption = v.strictObject({
  on: dayText,
  face: amountText,
  price: v.optional(priceText),
  refundedBy: v.optional(shortText),
});

/** A bond as a document. */
export const bondDocument = v.strictObject({
  ...descriptionEntries,
  kind: v.literal('bond'),
  class: v.optional(v.picklist(['bond', 'note'])),
  currency: currencyCode,
  face: amountText,
  issued: dayText,
  dated: v.optional(dayText),
  matures: dayText,
  coupon: v.nullable(coupon),
  price: v.optional(priceText),
  yield: v.optional(
    v.union(
      [signedRateText, yieldObject],
      'expected a yearly rate such as "5.94%", or an object of annual, compounding and dayCount.',
    ),
  ),
  issuedFor: v.optional(v.picklist(['cash', 'goods'])),
  issueCosts: v.optional(issueCosts),
  amortization: v.optional(
    v.strictObject({
      method: v.optional(v.picklist(amortizationMethods)),
      rate: v.optional(v.picklist(['yield', 'from-price'])),
    }),
  ),
  redemptions: v.optional(
    v.pipe(v.array(redemption), v.maxLength(1200, 'expected at most 1200 redemptions.')),
  ),
  calls: v.optional(
    v.pipe(
      v.array(v.strictObject({ from: dayText, price: priceText })),
      v.maxLength(100, 'expected at most 100 calls.'),
    ),
  ),
  events: v.optional(v.pipe(v.array(presentation), v.maxLength(1000, 'expected at most 1000 events.'))),
  rounding: v.optional(
    v.strictObject({
      interest: v.optional(v.picklist(['cent', 'unit', 'none'])),
      ties: v.optional(v.picklist(['away-from-zero', 'even'])),
    }),
  ),
});

export type BondDocument = v.InferOutput<typeof bondDocument>;
export type RedemptionDocument = v.InferOutput<typeof redemption>;
