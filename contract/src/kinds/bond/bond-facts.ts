import { dayCounts } from '@coffer/core';
import { eventText } from '../../words/event-text.ts';
import { compoundedInWords, statedAmount, type Fact } from '../../words/fact.ts';
import { frequencyInWords } from '../../words/frequency.ts';
import { showDay, showDecimal, showRate } from '../../words/show.ts';
import type { BondDocument } from './bond-document.ts';

/** The terms of a bond as a list for people. */
export function bondFacts(document: BondDocument): Fact[] {
  const { coupon, currency, amortization, rounding } = document;
  const stated = typeof document.yield === 'string' ? { annual: document.yield } : document.yield;
  const straight = amortization?.method === 'straight-line';
  const roundedTo: Readonly<Record<string, string>> = { unit: 'to the whole unit', none: 'not at all' };
  return [
    ['Face', `${showDecimal(document.face)} ${currency}`],
    ...(document.issuedFor === 'goods' ? [['Issued for', 'goods'] as const] : []),
    ['Issued', showDay(document.issued)],
    ...(document.dated ? [['Coupon runs from', showDay(document.dated)] as const] : []),
    ['Matures', showDay(document.matures)],
    ...couponFacts(coupon),
    ...(document.price === undefined
      ? []
      : [['Price', `${showRate(document.price)} percent of face`] as const]),
    ...(stated?.annual === undefined ? [] : [['Market yield', showRate(stated.annual)] as const]),
    ...(coupon ? [] : [['Yield compounded', compoundedInWords(stated?.compounding ?? 'annual')] as const]),
    ...(document.issueCosts ? [['Issue costs', costText(document.issueCosts, straight)] as const] : []),
    ['Amortized', straight ? 'in equal parts (straight-line)' : 'by the effective interest method'],
    ...(document.calls ?? []).map(
      (call) => ['Callable', `from ${showDay(call.from)} at ${showRate(call.price)}`] as const,
    ),
    ['Rounded', roundedTo[rounding?.interest ?? ''] ?? 'to the cent'],
  ];
}

function costText({ amount, method }: NonNullable<BondDocument['issueCosts']>, straight: boolean): string {
  const equal = (method ?? (straight ? 'straight-line' : 'effective')) === 'straight-line';
  return `${statedAmount(amount)}, amortized ${equal ? 'in equal parts' : 'in the effective rate'}`;
}

function couponFacts(coupon: BondDocument['coupon']): Fact[] {
  if (!coupon) return [['Coupon', 'none']];
  return [
    ['Coupon', `${showRate(coupon.annual)} ${frequencyInWords(coupon.every)}`],
    ...(coupon.first ? [['First coupon', showDay(coupon.first)] as const] : []),
    ...(coupon.last ? [['Last coupon before maturity', showDay(coupon.last)] as const] : []),
    ['Days', dayCounts[coupon.dayCount ?? '30/360'].title],
    ...(coupon.monthEnd ? [['Month ends', 'kept'] as const] : []),
  ];
}

/** What is redeemed before maturity, and presentations stated, in order of date. */
export function bondEvents({ redemptions = [], events = [] }: BondDocument): Fact[] {
  const redeemed = redemptions.map(({ on, face, price, refundedBy }) => {
    const refunded = refundedBy === undefined ? '' : `, refunded by ${refundedBy}`;
    const what =
      price === undefined
        ? `instalment of ${showDecimal(face)} of face due`
        : `${showDecimal(face)} of face redeemed at ${showRate(price)}${refunded}`;
    return { on, what };
  });
  return [...redeemed, ...events.map((event) => ({ on: event.on, what: eventText(event) }))]
    .sort((a, b) => a.on.localeCompare(b.on))
    .map(({ on, what }) => [showDay(on), what]);
}
