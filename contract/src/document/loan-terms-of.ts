import {
  formatDay,
  parseDay,
  ratio,
  ratioFromDecimal,
  type LoanTerms,
  type Phase,
  type Ratio,
} from '@coffer/core';
import type { AmountReader } from './amount-reader.ts';
import type { LoanDocument } from './loan-document.ts';

/** A rate such as `6.10%` as a fraction. The text has passed validation. */
export function rateOf(text: string): Ratio {
  const percent = ratioFromDecimal(text.slice(0, -1));
  return ratio(percent.num, percent.den * 100n);
}

/** A date that has passed validation. */
export function dayOf(text: string): number {
  return parseDay(text) as number;
}

/** The terms of a validated loan document. What does not fit together is told to the reader. */
export function loanTermsOf(document: LoanDocument, read: AmountReader): LoanTerms {
  const { purchase, payments, rounding } = document;
  const start = dayOf(document.start);
  const events = document.events ?? [];
  const terms: LoanTerms = {
    kind: 'loan',
    currency: document.currency,
    digits: read.digits,
    amount: financedAmount(document, read),
    start,
    annualRate: rateOf(document.rate.annual),
    compounding: document.rate.compounding ?? 'each-payment',
    dayCount: document.rate.dayCount ?? 'even-periods',
    every: payments.every,
    first: dayOf(payments.first),
    keepMonthEnd: payments.monthEnd ?? false,
    phases: payments.phases.map((phase, at) => phaseOf(phase, `payments.phases.${at}`, read)),
    rounding: {
      interest: rounding?.interest ?? 'cent',
      payment: rounding?.payment ?? 'cent',
      ties: rounding?.ties ?? 'away-from-zero',
    },
    extrasOnce: [],
    extrasEachPayment: [],
    recorded: [],
    ...(purchase && {
      purchase: {
        price: read.amount('purchase.price', purchase.price),
        downPayment: read.amount('purchase.downPayment', purchase.downPayment),
      },
    }),
  };
  return { ...terms, ...eventsOf(events, start, read) };
}

function financedAmount(document: LoanDocument, read: AmountReader): number {
  const { amount, purchase } = document;
  if (purchase && amount !== undefined) {
    read.fault(
      'amount',
      'Give either the amount or the purchase, not both; the amount is price less down payment.',
    );
  }
  if (purchase) {
    const price = read.amount('purchase.price', purchase.price);
    const down = read.amount('purchase.downPayment', purchase.downPayment);
    if (down >= price) read.fault('purchase.downPayment', 'The down payment leaves nothing to finance.');
    return price - down;
  }
  if (amount === undefined) {
    read.fault('amount', 'This key is missing; give the amount, or the purchase.');
    return 1;
  }
  return read.positive('amount', amount);
}

function phaseOf(phase: LoanDocument['payments']['phases'][number], key: string, read: AmountReader): Phase {
  switch (phase.type) {
    case 'level':
      return {
        type: 'level',
        count: phase.count,
        amortizeOver: phase.amortizeOver ?? phase.count,
        ...(phase.payment !== undefined && { payment: read.positive(`${key}.payment`, phase.payment) }),
      };
    case 'fixed':
      return {
        type: 'fixed',
        payment: read.positive(`${key}.payment`, phase.payment),
        ...(phase.count !== undefined && { count: phase.count }),
      };
    case 'interest-only':
      return { type: 'interest-only', count: phase.count };
  }
}

function eventsOf(
  events: NonNullable<LoanDocument['events']>,
  start: number,
  read: AmountReader,
): Pick<LoanTerms, 'extrasOnce' | 'extrasEachPayment' | 'recorded'> {
  const extrasOnce: LoanTerms['extrasOnce'][number][] = [];
  const extrasEachPayment: LoanTerms['extrasEachPayment'][number][] = [];
  const recorded: LoanTerms['recorded'][number][] = [];
  const dues = new Set<number>();
  events.forEach((event, at) => {
    const key = `events.${at}`;
    const notBeforeStart = (name: string, day: number): void => {
      if (day < start) read.fault(`${key}.${name}`, `This is before the loan starts, ${formatDay(start)}.`);
    };
    if (event.type === 'paid') {
      const due = dayOf(event.due);
      const on = dayOf(event.on);
      notBeforeStart('on', on);
      if (dues.has(due)) read.fault(`${key}.due`, `The payment due ${event.due} is recorded twice.`);
      dues.add(due);
      recorded.push({ due, on, amount: read.amount(`${key}.amount`, event.amount) });
      return;
    }
    const amount = read.positive(`${key}.amount`, event.amount);
    if (event.on !== undefined && event.every === undefined) {
      if (event.from !== undefined || event.to !== undefined) {
        read.fault(key, 'An extra payment on one day has no "from" or "to".');
      }
      const on = dayOf(event.on);
      notBeforeStart('on', on);
      extrasOnce.push({ on, amount });
    } else if (event.every !== undefined && event.on === undefined) {
      const from = event.from === undefined ? start : dayOf(event.from);
      const to = event.to === undefined ? Number.MAX_SAFE_INTEGER : dayOf(event.to);
      if (to < from) read.fault(`${key}.to`, 'This ends before it begins.');
      extrasEachPayment.push({ from, to, amount });
    } else {
      read.fault(key, 'Say either "on" for one day or "every": "payment" for each payment.');
    }
  });
  return { extrasOnce, extrasEachPayment, recorded };
}
