import { formatDay, type LoanEvent } from '@coffer/core';
import type { AmountReader } from '../../document/amount-reader.ts';
import { risesOf } from './rises-of.ts';
import type { CreditLineEventDocument, LoanEventDocument } from './loan-events-document.ts';
import { dayOf, rateOf } from '../../document/rate-terms-of.ts';

type EventDocument = LoanEventDocument | CreditLineEventDocument;

/** The events of a validated document. What does not fit together is told to the reader. */
export function loanEventsOf(
  events: readonly EventDocument[],
  start: number,
  read: AmountReader,
): LoanEvent[] {
  const parts = new Set<string>();
  return events.map((event, at) => {
    const key = `events.${at}`;
    const on = event.on === undefined ? start : dayOf(event.on);
    if (on < start) read.fault(`${key}.on`, `This is before the loan starts, ${formatDay(start)}.`);
    if (event.type === 'paid') {
      const part = `${event.due} on ${event.on}`;
      if (parts.has(part)) {
        read.fault(
          `${key}.on`,
          `The payment due ${event.due} is recorded twice for ${event.on}; leave one, or add the two up.`,
        );
      }
      parts.add(part);
    }
    return eventOf(event, on, key, start, read);
  });
}

function eventOf(
  event: EventDocument,
  on: number,
  key: string,
  start: number,
  read: AmountReader,
): LoanEvent {
  switch (event.type) {
    case 'extra-principal':
      return extraOf(event, on, key, start, read);
    case 'repayment': {
      const amount = read.positive(`${key}.amount`, event.amount);
      return { type: 'extra-principal', on, amount, then: 'shorten' };
    }
    case 'draw': {
      const amount = read.positive(`${key}.amount`, event.amount);
      return { type: 'draw', on, amount, then: event.then ?? 'keep' };
    }
    case 'fee': {
      const amount = read.positive(`${key}.amount`, event.amount);
      return { type: 'fee', on, amount, treatment: event.treatment ?? 'expense' };
    }
    case 'payment-change':
      return {
        type: 'payment-change',
        on,
        payment: read.positive(`${key}.payment`, event.payment),
        ...risesOf(event.rises, `${key}.rises`, read),
      };
    case 'paid':
      return { type: 'paid', due: dayOf(event.due), on, amount: read.amount(`${key}.amount`, event.amount) };
    case 'presentation': {
      const to = event.to === undefined ? {} : { to: dayOf(event.to) };
      if (to.to !== undefined && to.to < on) read.fault(`${key}.to`, 'This ends before it begins.');
      return { type: 'presentation', on, as: event.as, reason: event.reason, ...to };
    }
    case 'interest-added':
      return { type: 'interest-added', on };
    case 'settled': {
      const amount = event.amount === undefined ? {} : { amount: read.amount(`${key}.amount`, event.amount) };
      return { type: 'settled', on, ...amount };
    }
    case 'overpayment-returned':
      return { type: 'overpayment-returned', on, amount: read.positive(`${key}.amount`, event.amount) };
    case 'renewal':
      return {
        type: 'renewal',
        on,
        annualRate: rateOf(event.annual),
        count: event.count,
        amortizeOver: event.amortizeOver ?? event.count,
        ...(event.every && { every: event.every }),
        ...(event.payment !== undefined && { payment: read.positive(`${key}.payment`, event.payment) }),
      };
  }
}

function extraOf(
  event: Extract<LoanEventDocument, { type: 'extra-principal' }>,
  on: number,
  key: string,
  start: number,
  read: AmountReader,
): LoanEvent {
  const amount = read.positive(`${key}.amount`, event.amount);
  const then = event.then ?? 'shorten';
  if ((event.on === undefined) === (event.every === undefined)) {
    read.fault(key, 'Say either "on" for one day or "every": "payment" for each payment.');
  }
  if (event.every === undefined) {
    if (event.from !== undefined || event.to !== undefined) {
      read.fault(key, 'An extra payment on one day has no "from" or "to".');
    }
    if (event.rises !== undefined) {
      read.fault(`${key}.rises`, 'What is paid once does not rise; say "every": "payment" for each payment.');
    }
    return { type: 'extra-principal', on, amount, then };
  }
  const from = event.from === undefined ? start : Math.max(start, dayOf(event.from));
  const to = event.to === undefined ? Number.MAX_SAFE_INTEGER : dayOf(event.to);
  if (to < from) read.fault(`${key}.to`, 'This ends before it begins.');
  return {
    type: 'extra-each-payment',
    from,
    to,
    amount,
    ...risesOf(event.rises, `${key}.rises`, read),
    then,
  };
}
