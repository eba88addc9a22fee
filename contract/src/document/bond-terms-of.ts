import { ratio, ratioFromDecimal, type BondTerms } from '@coffer/core';
import type { AmountReader } from './amount-reader.ts';
import type { BondDocument } from './bond-document.ts';
import { dayOf, rateOf } from './rate-terms-of.ts';

/** The terms of a validated bond document. What does not fit together is told to the reader. */
export function bondTermsOf(document: BondDocument, read: AmountReader): BondTerms {
  const { coupon, price, amortization } = document;
  const marketYield = document.yield;
  const effectiveRate = amortization?.rate ?? (marketYield === undefined ? 'from-price' : 'yield');
  if (price === undefined && marketYield === undefined) {
    read.fault('price', 'Give the price of the bond, or its yield; the other is worked out.');
  }
  if (effectiveRate === 'yield' && marketYield === undefined) {
    read.fault('amortization.rate', 'The effective rate is to be the yield, but no yield is given.');
  }
  const ofFace = price === undefined ? undefined : ratioFromDecimal(price);
  return {
    kind: 'bond',
    currency: document.currency,
    digits: read.digits,
    face: read.positive('face', document.face),
    issued: dayOf(document.issued),
    matures: dayOf(document.matures),
    couponRate: rateOf(coupon.annual),
    every: coupon.every,
    dayCount: coupon.dayCount ?? '30/360',
    keepMonthEnd: coupon.monthEnd ?? false,
    effectiveRate,
    rounding: { interest: document.rounding?.interest ?? 'cent', ties: 'away-from-zero' },
    ...(ofFace && {
      price: {
        ofFace: ratio(ofFace.num, ofFace.den * 100n),
        decimals: (price?.split('.')[1] ?? '').length,
      },
    }),
    ...(marketYield !== undefined && { marketYield: rateOf(marketYield) }),
  };
}
