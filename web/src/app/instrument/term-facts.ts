import { dayCounts } from '@coffer/core';
import { frequencyInWords, type InstrumentDocument } from '@coffer/contract';
import { showDay, showDecimal } from '../figures/show';

/** A fact of an agreement: what it is, and what was agreed. */
export type Fact = readonly [name: string, value: string];

type LoanDocument = Extract<InstrumentDocument, { kind: 'loan' }>;
type BondDocument = Extract<InstrumentDocument, { kind: 'bond' }>;
type Phase = LoanDocument['payments']['phases'][number];

/** The terms of an instrument as a list for people. */
export function termFacts(document: InstrumentDocument): Fact[] {
  return document.kind === 'loan' ? loanFacts(document) : bondFacts(document);
}

function loanFacts(document: LoanDocument): Fact[] {
  const { currency, rate, payments, purchase, rounding } = document;
  return [
    ...(purchase
      ? [
          ['Price', `${showDecimal(purchase.price)} ${currency}`] as const,
          ['Down payment', `${showDecimal(purchase.downPayment)} ${currency}`] as const,
        ]
      : [['Amount', `${showDecimal(document.amount ?? '')} ${currency}`] as const]),
    ['Start', showDay(document.start)],
    ['Annual rate', rate.annual],
    ['Compounded', 'with each payment'],
    ['Days', dayCounts[rate.dayCount ?? 'even-periods'].title],
    ['Paid', `${frequencyInWords(payments.every)}, first on ${showDay(payments.first)}`],
    ...(payments.monthEnd ? [['Month ends', 'kept'] as const] : []),
    ...payments.phases.map((phase, at) => [`Payments, stretch ${at + 1}`, phaseText(phase)] as const),
    ['Interest rounded', rounding?.interest === 'unit' ? 'to the whole unit' : 'to the cent'],
  ];
}

/** A stretch of payments in words. */
export function phaseText(phase: Phase): string {
  if (phase.type === 'interest-only') return `interest only, ${phase.count} payments`;
  const amount = phase.payment === undefined ? '' : ` of ${showDecimal(phase.payment)}`;
  if (phase.type === 'fixed') {
    return `fixed${amount}, ${phase.count === undefined ? 'until cleared' : `${phase.count} payments`}`;
  }
  const over = phase.amortizeOver === undefined || phase.amortizeOver === phase.count;
  return `level${amount}, ${phase.count} payments${over ? '' : `, spread over ${phase.amortizeOver}; the balance with the last`}`;
}

function bondFacts(document: BondDocument): Fact[] {
  const { coupon, currency } = document;
  return [
    ['Face', `${showDecimal(document.face)} ${currency}`],
    ['Issued', showDay(document.issued)],
    ['Matures', showDay(document.matures)],
    ['Coupon', `${coupon.annual} ${frequencyInWords(coupon.every)}`],
    ['Days', dayCounts[coupon.dayCount ?? '30/360'].title],
    ...(document.price === undefined ? [] : [['Price', `${document.price} percent of face`] as const]),
    ...(document.yield === undefined ? [] : [['Market yield', document.yield] as const]),
    ['Amortized', 'by the effective interest method'],
  ];
}

/** The dated events of a loan in words, in order of date. */
export function eventFacts(document: InstrumentDocument): Fact[] {
  if (document.kind !== 'loan') return [];
  return [...(document.events ?? [])]
    .map((event): [string, string, string] => {
      const amount = showDecimal(event.amount);
      if (event.type === 'paid') {
        return [event.on, showDay(event.on), `${amount} paid for the payment due ${showDay(event.due)}`];
      }
      if (event.every !== undefined) {
        const from = event.from === undefined ? '' : ` from ${showDay(event.from)}`;
        const to = event.to === undefined ? '' : ` to ${showDay(event.to)}`;
        return [event.from ?? document.start, 'each payment', `extra principal of ${amount}${from}${to}`];
      }
      return [event.on ?? '', showDay(event.on ?? ''), `extra principal of ${amount}`];
    })
    .sort(([a], [b]) => a.localeCompare(b))
    .map(([, when, what]) => [when, what]);
}
