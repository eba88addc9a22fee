import type { CouponFrequency } from '@coffer/core';
import { present, type FieldReader } from '../../typed/field-reader';
import type { TypedBond, TypedBondEvent } from './bond-form';

const compounding: Readonly<Record<CouponFrequency, string>> = {
  month: 'monthly',
  quarter: 'quarterly',
  'half-year': 'half-yearly',
  year: 'annual',
};

/** The part of a document that a bond's fields make, and the document's key of each typed event. */
export function bondPart(
  bond: TypedBond,
  read: FieldReader,
): { entries: Record<string, unknown>; eventKeys: readonly string[] } {
  const price = read.optional(bond.price, () => read.price('price', bond.price));
  const marketYield = read.optional(bond.yield, () => read.signedRate('yield', bond.yield));
  if (bond.price.trim() === '' && bond.yield.trim() === '') read.missing.push('price');
  const pays = bond.pays === 'coupons';
  const straight = bond.method === 'straight-line';
  const costs = read.optional(bond.costs, () => read.amount('issueCosts.amount', bond.costs));
  const events = eventsOf(bond.events, read);
  const entries = {
    class: bond.class,
    issuedFor: bond.issuedFor === 'cash' ? undefined : bond.issuedFor,
    face: read.amount('face', bond.face),
    issued: read.day('issued', bond.issued),
    dated: pays ? read.optional(bond.dated, () => read.day('dated', bond.dated)) : undefined,
    matures: read.day('matures', bond.matures),
    coupon: pays ? couponOf(bond, read) : null,
    price,
    yield: pays
      ? marketYield
      : present({ annual: marketYield, compounding: compounding[bond.every], dayCount: bond.dayCount }),
    issueCosts:
      costs === undefined
        ? undefined
        : { amount: costs, method: straight ? 'straight-line' : bond.costsMethod },
    amortization:
      bond.effectiveRate === 'default' && !straight
        ? undefined
        : present({
            method: bond.method,
            rate: bond.effectiveRate === 'default' ? undefined : bond.effectiveRate,
          }),
    redemptions: listed(events.redemptions),
    calls: listed(events.calls),
    events: listed(events.presentations),
    rounding:
      bond.interestRounding === 'cent' && bond.ties === 'away-from-zero'
        ? undefined
        : { interest: bond.interestRounding, ties: bond.ties },
  };
  return { entries, eventKeys: events.keys };
}

function couponOf(bond: TypedBond, read: FieldReader): object {
  return present({
    annual: read.rate('coupon.annual', bond.coupon),
    every: bond.every,
    dayCount: bond.dayCount,
    monthEnd: bond.monthEnd || undefined,
    first: read.optional(bond.firstCoupon, () => read.day('coupon.first', bond.firstCoupon)),
    last: read.optional(bond.lastCoupon, () => read.day('coupon.last', bond.lastCoupon)),
  });
}

interface BondEvents {
  readonly redemptions: object[];
  readonly calls: object[];
  readonly presentations: object[];
  readonly keys: readonly string[];
}

function eventsOf(typed: readonly TypedBondEvent[], read: FieldReader): BondEvents {
  const redemptions: object[] = [];
  const calls: object[] = [];
  const presentations: object[] = [];
  const keys = typed.map((event) => {
    // One that was added and not yet typed into says nothing, and stops nothing.
    if (isEmpty(event)) return '';
    const [list, name] =
      event.type === 'call'
        ? ([calls, 'calls'] as const)
        : event.type === 'presentation'
          ? ([presentations, 'events'] as const)
          : ([redemptions, 'redemptions'] as const);
    const key = `${name}.${list.length}`;
    list.push(present(eventPart(event, key, read)));
    return key;
  });
  return { redemptions, calls, presentations, keys };
}

function isEmpty({ on, to, face, price, refundedBy, reason }: TypedBondEvent): boolean {
  return [on, to, face, price, refundedBy, reason].every((text) => text.trim() === '');
}

function eventPart(event: TypedBondEvent, key: string, read: FieldReader): Record<string, unknown> {
  const day = (name: string): string | undefined => read.day(`${key}.${name}`, event.on);
  const price = (): string | undefined => read.price(`${key}.price`, event.price);
  switch (event.type) {
    case 'instalment':
      return { on: day('on'), face: read.amount(`${key}.face`, event.face) };
    case 'redemption':
      return {
        on: day('on'),
        face: read.amount(`${key}.face`, event.face),
        price: price(),
        refundedBy: event.refundedBy.trim() || undefined,
      };
    case 'call':
      return { from: day('from'), price: price() };
    case 'presentation':
      return {
        type: 'presentation',
        on: day('on'),
        to: read.optional(event.to, () => read.day(`${key}.to`, event.to)),
        as: event.as,
        reason: read.text(`${key}.reason`, event.reason),
      };
  }
}

function listed(list: readonly object[]): readonly object[] | undefined {
  return list.length === 0 ? undefined : list;
}
