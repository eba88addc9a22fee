import type { InstrumentDocument } from '@coffer/contract';
import type { CouponFrequency } from '@coffer/core';
import { bondEventForm, type BondForm, type TypedBondEvent } from './bond-form';
import { amountOf, dayOf, percentOf } from './typed-text';

type BondDocument = Extract<InstrumentDocument, { kind: 'bond' }>;

const everyOf: Readonly<Record<string, CouponFrequency>> = {
  monthly: 'month',
  quarterly: 'quarter',
  'half-yearly': 'half-year',
  annual: 'year',
};

/** Fills a bond's form from its document. */
export function fillBond(form: BondForm, document: BondDocument): void {
  const { coupon, amortization, issueCosts } = document;
  const stated = typeof document.yield === 'string' ? { annual: document.yield } : document.yield;
  const { events } = form.controls;
  events.clear({ emitEvent: false });
  for (const event of bondEventsOf(document)) events.push(bondEventForm(event), { emitEvent: false });
  form.patchValue({
    class: document.class ?? 'bond',
    issuedFor: document.issuedFor ?? 'cash',
    face: amountOf(document.face),
    issued: dayOf(document.issued),
    dated: dayOf(document.dated),
    matures: dayOf(document.matures),
    pays: coupon ? 'coupons' : 'nothing',
    coupon: percentOf(coupon?.annual),
    every: coupon?.every ?? everyOf[stated?.compounding ?? 'annual'] ?? 'year',
    dayCount: coupon?.dayCount ?? stated?.dayCount ?? '30/360',
    monthEnd: coupon?.monthEnd ?? false,
    firstCoupon: dayOf(coupon?.first),
    lastCoupon: dayOf(coupon?.last),
    price: document.price ?? '',
    yield: percentOf(stated?.annual),
    effectiveRate: amortization?.rate ?? 'default',
    method: amortization?.method ?? 'effective',
    costs: amountOf(issueCosts?.amount),
    costsMethod: issueCosts?.method ?? 'effective',
    interestRounding: document.rounding?.interest ?? 'cent',
    ties: document.rounding?.ties ?? 'away-from-zero',
  });
}

function bondEventsOf({
  redemptions = [],
  calls = [],
  events = [],
}: BondDocument): Partial<TypedBondEvent>[] {
  return [
    ...redemptions.map(({ on, face, price, refundedBy }): Partial<TypedBondEvent> => ({
      type: price === undefined ? 'instalment' : 'redemption',
      on: dayOf(on),
      face: amountOf(face),
      price: price ?? '',
      refundedBy: refundedBy ?? '',
    })),
    ...calls.map(({ from, price }): Partial<TypedBondEvent> => ({ type: 'call', on: dayOf(from), price })),
    ...events.map(({ on, to, as, reason }): Partial<TypedBondEvent> => ({
      type: 'presentation',
      on: dayOf(on),
      to: dayOf(to),
      as,
      reason,
    })),
  ];
}
