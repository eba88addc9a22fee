import {
  ratio,
  ratioFromDecimal,
  type BondTerms,
  type CouponFrequency,
  type EarlyRedemption,
  type Instalment,
  type Ratio,
} from '@coffer/core';
import type { AmountReader } from '../../document/amount-reader.ts';
import type { BondDocument, yieldCompoundings } from './bond-document.ts';
import { dayOf, rateOf } from '../../document/rate-terms-of.ts';

const compoundedEvery: Readonly<Record<(typeof yieldCompoundings)[number], CouponFrequency>> = {
  annual: 'year',
  'half-yearly': 'half-year',
  quarterly: 'quarter',
  monthly: 'month',
};

/** The terms of a validated bond document. What does not fit together is told to the reader. */
export function bondTermsOf(document: BondDocument, read: AmountReader): BondTerms {
  const { coupon, price, amortization, issueCosts, rounding } = document;
  const stated = yieldOf(document, read);
  const method = amortization?.method ?? 'effective';
  const effectiveRate = amortization?.rate ?? (stated.annual === undefined ? 'from-price' : 'yield');
  if (price === undefined && stated.annual === undefined) {
    read.fault('price', 'Give the price of the bond, or its yield; the other is worked out.');
  }
  if (effectiveRate === 'yield' && stated.annual === undefined) {
    read.fault('amortization.rate', 'The effective rate is to be the yield, but no yield is given.');
  }
  if (!coupon && document.dated !== undefined) {
    read.fault('dated', 'Without a coupon nothing accrues before the issue; leave the dated date out.');
  }
  const issued = dayOf(document.issued);
  return {
    kind: 'bond',
    currency: document.currency,
    digits: read.digits,
    face: read.positive('face', document.face),
    issued,
    dated: document.dated === undefined ? issued : dayOf(document.dated),
    matures: dayOf(document.matures),
    couponRate: coupon ? rateOf(coupon.annual) : ratio(0n),
    zeroCoupon: !coupon,
    every: coupon?.every ?? compoundedEvery[stated.compounding ?? 'annual'],
    dayCount: coupon?.dayCount ?? stated.dayCount ?? '30/360',
    keepMonthEnd: coupon?.monthEnd ?? false,
    ...(coupon?.first !== undefined && { firstCoupon: dayOf(coupon.first) }),
    ...(coupon?.last !== undefined && { lastCoupon: dayOf(coupon.last) }),
    ...(price !== undefined && {
      price: { ofFace: priceOf(price), decimals: decimalsOf(price) },
    }),
    ...(stated.annual !== undefined && {
      marketYield: rateOf(stated.annual),
      yieldDecimals: decimalsOf(stated.annual.replace('%', '')),
    }),
    effectiveRate,
    method,
    ...(issueCosts && {
      issueCosts: {
        amount: read.amount('issueCosts.amount', issueCosts.amount),
        method: issueCosts.method ?? method,
      },
    }),
    instalments: instalmentsOf(document, read),
    redemptions: redemptionsOf(document, read),
    calls: callsOf(document, read),
    issuedFor: document.issuedFor ?? 'cash',
    events: presentationsOf(document, read),
    rounding: { interest: rounding?.interest ?? 'cent', ties: rounding?.ties ?? 'away-from-zero' },
  };
}

type StatedYield = Exclude<NonNullable<BondDocument['yield']>, string>;

function yieldOf(document: BondDocument, read: AmountReader): StatedYield {
  const stated = document.yield;
  if (stated === undefined || typeof stated === 'string')
    return stated === undefined ? {} : { annual: stated };
  if (document.coupon) {
    for (const key of ['compounding', 'dayCount'] as const) {
      if (stated[key] === undefined) continue;
      read.fault(`yield.${key}`, 'The yield of a bond with coupons goes by them; leave this out.');
    }
  }
  return stated;
}

/** A price in percent of face, as a fraction of it. The text has passed validation. */
function priceOf(text: string): Ratio {
  const percent = ratioFromDecimal(text);
  return ratio(percent.num, percent.den * 100n);
}

function decimalsOf(text: string): number {
  return (text.split('.')[1] ?? '').length;
}

function callsOf({ calls = [], issued, matures }: BondDocument, read: AmountReader): BondTerms['calls'] {
  const days = new Set<string>();
  calls.forEach(({ from }, at) => {
    const key = `calls.${at}.from`;
    if (from < issued || from >= matures) {
      read.fault(key, `A call begins between the issue, ${issued}, and maturity, ${matures}; found ${from}.`);
    }
    if (days.has(from)) read.fault(key, `Two calls begin on ${from}; leave one.`);
    days.add(from);
  });
  return calls
    .map((call) => ({ from: dayOf(call.from), price: priceOf(call.price) }))
    .sort((a, b) => a.from - b.from);
}

function instalmentsOf({ redemptions = [] }: BondDocument, read: AmountReader): Instalment[] {
  return redemptions
    .map((redemption, at) => ({ ...redemption, at }))
    .filter(({ price }) => price === undefined)
    .map(({ on, face, at }) => ({ on: dayOf(on), face: read.positive(`redemptions.${at}.face`, face), at }))
    .sort((a, b) => a.on - b.on);
}

function redemptionsOf({ redemptions = [] }: BondDocument, read: AmountReader): EarlyRedemption[] {
  return redemptions
    .flatMap(({ on, face, price, refundedBy }, at): EarlyRedemption[] =>
      price === undefined
        ? []
        : [
            {
              on: dayOf(on),
              face: read.positive(`redemptions.${at}.face`, face),
              price: priceOf(price),
              ...(refundedBy !== undefined && { refundedBy }),
              at,
            },
          ],
    )
    .sort((a, b) => a.on - b.on);
}

function presentationsOf({ events = [] }: BondDocument, read: AmountReader): BondTerms['events'] {
  return events.map(({ type, on, to, as, reason }, at) => {
    if (to !== undefined && to < on) read.fault(`events.${at}.to`, `This is before it begins, ${on}.`);
    return { type, on: dayOf(on), ...(to !== undefined && { to: dayOf(to) }), as, reason };
  });
}
