import type { LoanTerms, LoanUnknown, Phase } from '@coffer/core';
import type { AmountReader } from '../../document/amount-reader.ts';
import type { LoanDocument, PhaseDocument } from './loan-document.ts';
import { risesOf } from './rises-of.ts';
import { loanEventsOf } from './loan-events-of.ts';
import { dayOf, rateTermsOf } from '../../document/rate-terms-of.ts';

/** Terms as they are stated, with what is to be solved before they can be scheduled. */
export interface StatedTerms {
  readonly terms: LoanTerms;
  readonly unknown?: LoanUnknown;
}

/** The terms of a validated loan document. What does not fit together is told to the reader. */
export function loanTermsOf(document: LoanDocument, read: AmountReader): StatedTerms {
  const { purchase, payments, takenOn } = document;
  const start = dayOf(document.start);
  const unknown = unknownOf(document, read);
  const terms: LoanTerms = {
    kind: 'loan',
    currency: document.currency,
    digits: read.digits,
    amount: financedAmount(document, read),
    start,
    ...rateTermsOf(document.rate, start, read),
    every: payments.every,
    first: dayOf(payments.first),
    due: payments.due ?? 'end',
    keepMonthEnd: payments.monthEnd ?? false,
    phases: payments.phases.map((phase, at) => phaseOf(phase, `payments.phases.${at}`, read)),
    atEnd: payments.atEnd ?? 'pay',
    rounding: loanRoundingOf(document.rounding),
    events: loanEventsOf(document.events ?? [], start, read),
    ...(payments.last !== undefined && { last: dayOf(payments.last) }),
    ...(payments.businessDays && { businessDays: businessDaysOf(payments.businessDays) }),
    ...(takenOn && {
      takenOn: { accruedInterest: read.amount('takenOn.accruedInterest', takenOn.accruedInterest) },
    }),
    ...(document.issueCosts && { issueCosts: issueCostsOf(document.issueCosts, 'effective', read) }),
    ...(purchase && {
      purchase: {
        price: read.amount('purchase.price', purchase.price),
        downPayment: read.amount('purchase.downPayment', purchase.downPayment),
      },
    }),
  };
  if (purchase && takenOn) {
    read.fault('takenOn', 'A purchase is financed once; a loan taken on states its amount instead.');
  }
  return { terms, ...(unknown && { unknown }) };
}

/** The rounding rules of a document, with what they are where it says nothing. */
export function loanRoundingOf(rounding: LoanDocument['rounding']): LoanTerms['rounding'] {
  return {
    interest: rounding?.interest ?? 'cent',
    payment: rounding?.payment ?? 'cent',
    ties: rounding?.ties ?? 'away-from-zero',
  };
}

/** Business-day rules of a document; interest stays on the agreed dates unless it is said to move. */
export function businessDaysOf(
  moving: NonNullable<LoanDocument['payments']['businessDays']>,
): NonNullable<LoanTerms['businessDays']> {
  const { rule, calendar, accrual = 'unmoved', closed = [] } = moving;
  if (closed.length === 0) return { rule, calendar, accrual };
  return { rule, calendar, accrual, closed: new Set(closed.map((day) => dayOf(day))) };
}

/** Issue costs of a document. */
export function issueCostsOf(
  costs: NonNullable<LoanDocument['issueCosts']>,
  unlessSaid: NonNullable<LoanTerms['issueCosts']>['method'],
  read: AmountReader,
): NonNullable<LoanTerms['issueCosts']> {
  return { amount: read.amount('issueCosts.amount', costs.amount), method: costs.method ?? unlessSaid };
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
  return amount === '?' ? 1 : read.positive('amount', amount);
}

function unknownOf(document: LoanDocument, read: AmountReader): LoanUnknown | undefined {
  const found: { keys: string[]; what: LoanUnknown }[] = [];
  if (document.amount === '?') found.push({ keys: ['amount'], what: 'amount' });
  if (document.rate.annual === '?') found.push({ keys: ['rate.annual'], what: 'annual' });
  const { phases } = document.payments;
  phases.forEach((phase, at) => {
    if (phase.type !== 'level' || phase.count !== '?') return;
    const key = `payments.phases.${at}`;
    found.push({ keys: [`${key}.count`], what: 'count' });
    if (phase.payment === undefined) {
      read.fault(`${key}.payment`, 'To solve the count, give the payment.');
    }
    if (at < phases.length - 1) {
      read.fault(`${key}.count`, 'Only the last stretch can run until the loan is cleared; give its count.');
    }
    if (phase.amortizeOver !== undefined) {
      read.fault(`${key}.amortizeOver`, 'With the count unknown the payments run until the loan is cleared.');
    }
  });
  const payment = unknownPayment(phases, read);
  if (payment) found.push(payment);
  checkBalloons(phases, found[0]?.what, read);
  if (found.length > 1) {
    const keys = found.flatMap((each) => each.keys);
    for (const key of keys) {
      read.fault(key, `Only one may be unknown, and here ${keys.join(' and ')} are; give all but one.`);
    }
  }
  return found[0]?.what;
}

/** A balloon is what a level payment is worked out to leave, or belongs to the payments that an unknown is solved from. */
function checkBalloons(
  phases: readonly PhaseDocument[],
  unknown: LoanUnknown | undefined,
  read: AmountReader,
): void {
  const solvedOverAll = unknown === 'amount' || unknown === 'annual' || typeof unknown === 'object';
  phases.forEach((phase, at) => {
    if (phase.type !== 'level' || phase.balloon === undefined) return;
    const key = `payments.phases.${at}.balloon`;
    const worked = phase.payment === undefined || phase.payment === '?';
    if (phase.count === '?') {
      read.fault(
        key,
        'With the count unknown the payments run until the loan is cleared; leave out the balloon.',
      );
    } else if (solvedOverAll && at < phases.length - 1) {
      read.fault(key, 'What is unknown is solved over all stretches; only the last may leave a balloon.');
    } else if (!worked && !solvedOverAll) {
      read.fault(key, 'With the payment given, what remains follows from it; leave out one of the two.');
    }
  });
}

/** The payment that is unknown in one level phase, or the same in several. */
function unknownPayment(
  phases: readonly PhaseDocument[],
  read: AmountReader,
): { keys: string[]; what: LoanUnknown } | undefined {
  const at = phases.flatMap((phase, place) =>
    phase.type === 'level' && phase.payment === '?' ? [place] : [],
  );
  const keys = at.map((place) => `payments.phases.${place}.payment`);
  if (at.length <= 1) return at.length === 1 ? { keys, what: 'payment' } : undefined;
  for (const place of at.filter((each) => each < phases.length - 1)) {
    const phase = phases[place];
    if (phase?.type === 'level' && phase.amortizeOver !== undefined) {
      read.fault(
        `payments.phases.${place}.amortizeOver`,
        'A payment unknown in several stretches is solved over all of them; leave this out.',
      );
    }
  }
  return { keys, what: { samePaymentIn: at } };
}

function phaseOf(phase: PhaseDocument, key: string, read: AmountReader): Phase {
  switch (phase.type) {
    case 'level': {
      const stated =
        phase.payment === undefined || phase.payment === '?'
          ? undefined
          : read.positive(`${key}.payment`, phase.payment);
      if (phase.count === '?') return { type: 'fixed', payment: stated ?? 1 };
      return {
        type: 'level',
        count: phase.count,
        amortizeOver: phase.amortizeOver ?? phase.count,
        ...(stated !== undefined && { payment: stated }),
        ...(phase.balloon !== undefined && { balloon: read.positive(`${key}.balloon`, phase.balloon) }),
      };
    }
    case 'fixed':
      return {
        type: 'fixed',
        payment: read.positive(`${key}.payment`, phase.payment),
        ...risesOf(phase.rises, `${key}.rises`, read),
        ...(phase.count !== undefined && { count: phase.count }),
      };
    case 'equal-principal':
      return {
        type: 'equal-principal',
        count: phase.count,
        ...(phase.principal !== undefined && {
          principal: read.positive(`${key}.principal`, phase.principal),
        }),
      };
    case 'interest-only':
      return { type: 'interest-only', count: phase.count };
    case 'no-payment':
      return {
        type: 'no-payment',
        count: phase.count,
        interest: phase.interest ?? 'added-each-period',
        then: phase.then ?? 'add-to-balance',
      };
    case 'custom':
      return {
        type: 'custom',
        payments: phase.payments.map(({ on, amount }, at) => ({
          on: dayOf(on),
          amount: read.amount(`${key}.payments.${at}.amount`, amount),
        })),
      };
  }
}
