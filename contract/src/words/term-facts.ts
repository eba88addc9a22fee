import { dayCounts } from '@coffer/core';
import { frequencyInWords } from '../document/describe-instrument.ts';
import type { InstrumentDocument } from '../document/instrument-document.ts';
import { eventText } from './event-text.ts';
import { showDay, showDecimal } from './show.ts';

/** A fact of an agreement: what it is, and what was agreed. */
export type Fact = readonly [name: string, value: string];

type LoanDocument = Extract<InstrumentDocument, { kind: 'loan' }>;
type LineDocument = Extract<InstrumentDocument, { kind: 'credit-line' }>;
type BondDocument = Extract<InstrumentDocument, { kind: 'bond' }>;
type Phase = LoanDocument['payments']['phases'][number];

/** The terms of an instrument as a list for people. */
export function termFacts(document: InstrumentDocument): Fact[] {
  if (document.kind === 'bond') return bondFacts(document);
  return document.kind === 'loan' ? loanFacts(document) : lineFacts(document);
}

const money = (amount: string | undefined): string =>
  amount === '?' ? 'worked out' : showDecimal(amount ?? '');

function loanFacts(document: LoanDocument): Fact[] {
  const { currency, payments, purchase, takenOn } = document;
  return [
    ...(purchase
      ? [
          ['Price', `${money(purchase.price)} ${currency}`] as const,
          ['Down payment', `${money(purchase.downPayment)} ${currency}`] as const,
        ]
      : [[takenOn ? 'Balance taken on' : 'Amount', `${money(document.amount)} ${currency}`] as const]),
    ...(takenOn ? [['Accrued by then', money(takenOn.accruedInterest)] as const] : []),
    ['Start', showDay(document.start)],
    ...rateFacts(document),
    ['Paid', `${frequencyInWords(payments.every)}, first on ${showDay(payments.first)}`],
    ...(payments.last ? [['Last payment', showDay(payments.last)] as const] : []),
    ...(payments.due === 'start' ? [['Payments', 'in advance'] as const] : []),
    ...(payments.monthEnd ? [['Month ends', 'kept'] as const] : []),
    ...movingFacts(payments.businessDays),
    ...payments.phases.map((phase, at) => [`Stretch ${at + 1}`, phaseText(phase)] as const),
    ...(payments.atEnd === 'leave' ? [['Left at the end', 'for renewal'] as const] : []),
    ...costFacts(document),
  ];
}

function lineFacts(document: LineDocument): Fact[] {
  return [
    ['Limit', `${money(document.limit)} ${document.currency}`],
    ['Start', showDay(document.start)],
    ['Matures', document.matures ? showDay(document.matures) : 'open'],
    ...rateFacts(document),
    [
      'Billed',
      document.firstBill
        ? `monthly, first on ${showDay(document.firstBill)}`
        : 'on the last day of each month',
    ],
    ...(document.unusedFee ? [['Fee on the unused part', document.unusedFee] as const] : []),
    ...movingFacts(document.businessDays),
    ...costFacts(document),
  ];
}

const compounded: Readonly<Record<string, string>> = {
  'each-payment': 'with each payment',
  annual: 'yearly',
  continuous: 'continuously',
  simple: 'never: simple interest',
};

function rateFacts({ rate }: LoanDocument | LineDocument): Fact[] {
  const { index } = rate;
  const bounds = [index?.floor && `floor ${index.floor}`, index?.cap && `cap ${index.cap}`].filter(Boolean);
  return [
    ...(rate.annual === undefined
      ? []
      : [['Annual rate', rate.annual === '?' ? 'worked out' : rate.annual] as const]),
    ...(index ? [['Index', [`${index.name} + ${index.margin ?? '0%'}`, ...bounds].join(', ')] as const] : []),
    ['Compounded', compounded[rate.compounding ?? 'each-payment'] ?? rate.compounding ?? ''],
    ['Days', dayCounts[rate.dayCount ?? 'even-periods'].title],
  ];
}

const moved: Readonly<Record<string, string>> = {
  following: 'to the next business day',
  'modified-following': 'to the next business day within the month',
  preceding: 'to the business day before',
};

function movingFacts(moving: LoanDocument['payments']['businessDays']): Fact[] {
  if (!moving) return [];
  const interest = moving.accrual === 'moved' ? '; interest moves too' : '';
  return [['Closed days', `${moved[moving.rule] ?? moving.rule}, ${moving.calendar}${interest}`]];
}

function costFacts({ issueCosts, rounding }: LoanDocument | LineDocument): Fact[] {
  const to: Readonly<Record<string, string>> = { unit: 'to the whole unit', none: 'not at all' };
  const method = issueCosts?.method === 'straight-line' ? 'in equal parts' : 'in the effective rate';
  return [
    ...(issueCosts ? [['Costs', `${money(issueCosts.amount)}, amortized ${method}`] as const] : []),
    ['Interest rounded', to[rounding?.interest ?? ''] ?? 'to the cent'],
  ];
}

/** A stretch of payments in words. */
export function phaseText(phase: Phase): string {
  switch (phase.type) {
    case 'interest-only':
      return `interest only, ${phase.count} payments`;
    case 'no-payment': {
      const then = phase.then === 'pay' ? 'then paid' : 'then added';
      const interest = phase.interest === 'kept-apart' ? `kept apart, ${then}` : 'added to the balance';
      return `nothing paid for ${phase.count} periods, interest ${interest}`;
    }
    case 'custom':
      return `${phase.payments.length} listed payments`;
    case 'equal-principal': {
      const each = phase.principal === undefined ? '' : ` of ${money(phase.principal)}`;
      return `equal principal${each}, ${phase.count} payments`;
    }
    case 'fixed': {
      const count = phase.count === undefined ? 'until cleared' : `${phase.count} payments`;
      return `${money(phase.payment)} each, ${count}`;
    }
    case 'level': {
      const amount =
        phase.payment === undefined || phase.payment === '?' ? '' : ` of ${money(phase.payment)}`;
      const count = phase.count === '?' ? 'until cleared' : `${phase.count} payments`;
      const over = phase.amortizeOver === undefined || phase.amortizeOver === phase.count;
      const balloon = phase.balloon === undefined ? '' : `, leaving a balloon of ${money(phase.balloon)}`;
      return `level${amount}, ${count}${over ? balloon : `, spread over ${phase.amortizeOver}; a balance remains`}`;
    }
  }
}

function bondFacts(document: BondDocument): Fact[] {
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
    ...(document.price === undefined ? [] : [['Price', `${document.price} percent of face`] as const]),
    ...(stated?.annual === undefined ? [] : [['Market yield', stated.annual] as const]),
    ...(coupon
      ? []
      : [
          [
            'Yield compounded',
            compounded[stated?.compounding ?? 'annual'] ?? stated?.compounding ?? '',
          ] as const,
        ]),
    ...(document.issueCosts ? [['Issue costs', costText(document.issueCosts, straight)] as const] : []),
    ['Amortized', straight ? 'in equal parts (straight-line)' : 'by the effective interest method'],
    ...(document.calls ?? []).map(
      (call) => ['Callable', `from ${showDay(call.from)} at ${call.price}`] as const,
    ),
    ['Rounded', roundedTo[rounding?.interest ?? ''] ?? 'to the cent'],
  ];
}

function costText({ amount, method }: NonNullable<BondDocument['issueCosts']>, straight: boolean): string {
  const equal = (method ?? (straight ? 'straight-line' : 'effective')) === 'straight-line';
  return `${money(amount)}, amortized ${equal ? 'in equal parts' : 'in the effective rate'}`;
}

function couponFacts(coupon: BondDocument['coupon']): Fact[] {
  if (!coupon) return [['Coupon', 'none']];
  return [
    ['Coupon', `${coupon.annual} ${frequencyInWords(coupon.every)}`],
    ...(coupon.first ? [['First coupon', showDay(coupon.first)] as const] : []),
    ...(coupon.last ? [['Last coupon before maturity', showDay(coupon.last)] as const] : []),
    ['Days', dayCounts[coupon.dayCount ?? '30/360'].title],
    ...(coupon.monthEnd ? [['Month ends', 'kept'] as const] : []),
  ];
}

/** What is redeemed before maturity, and presentations stated, in order of date. */
function bondEvents({ redemptions = [], events = [] }: BondDocument): Fact[] {
  const redeemed = redemptions.map(({ on, face, price, refundedBy }) => {
    const refunded = refundedBy === undefined ? '' : `, refunded by ${refundedBy}`;
    const what =
      price === undefined
        ? `instalment of ${showDecimal(face)} of face due`
        : `${showDecimal(face)} of face redeemed at ${price}${refunded}`;
    return { on, what };
  });
  return [...redeemed, ...events.map((event) => ({ on: event.on, what: eventText(event) }))]
    .sort((a, b) => a.on.localeCompare(b.on))
    .map(({ on, what }) => [showDay(on), what]);
}

/** The dated events of an instrument in words, in order of date: steps and fixings of a rate among them. */
export function eventFacts(document: InstrumentDocument): Fact[] {
  if (document.kind === 'bond') return bondEvents(document);
  const { steps, index } = document.rate;
  const events = (document.events ?? []).map((event) => {
    const each = event.type === 'extra-principal' && event.every !== undefined;
    const day = (each ? event.from : event.on) ?? document.start;
    return { day, when: each ? 'each payment' : showDay(day), what: eventText(event) };
  });
  const rates = [
    ...(steps ?? []).map(({ from, annual }) => ({ day: from, what: `the rate becomes ${annual}` })),
    ...(index?.fixings ?? []).map(({ on, rate }) => ({
      day: on,
      what: `${index?.name} is fixed at ${rate}`,
    })),
  ].map((rate) => ({ ...rate, when: showDay(rate.day) }));
  return [...events, ...rates]
    .sort((a, b) => a.day.localeCompare(b.day))
    .map(({ when, what }) => [when, what]);
}
