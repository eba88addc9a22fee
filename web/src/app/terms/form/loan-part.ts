import { present, type FieldReader } from '../../typed/field-reader';
import { listedAmounts } from '../../typed/listed-amounts';
import { readPartOf } from '../../typed/part-of';
import type { TypedLoan } from './loan-form';
import { eventsPart, type EventsPart, type KeptEvent } from './events-part';
import type { TypedStretch } from './stretch-form';

/** The part of a document that a loan's fields make. */
export function loanPart(
  loan: TypedLoan,
  currency: string,
  read: FieldReader,
  kept: readonly KeptEvent[],
): { entries: Record<string, unknown>; eventKeys: readonly string[] } {
  const made = eventsPart(loan.events, read, kept);
  const entries = {
    class: loan.class,
    ...amountPart(loan, currency, read),
    ...costsPart(loan, read),
    start: read.day('start', loan.start),
    rate: ratePart(loan, made, read),
    payments: present({
      every: loan.every,
      first: read.day('payments.first', loan.due === 'start' ? loan.start : loan.first),
      last: read.optional(loan.last, () => read.day('payments.last', loan.last)),
      due: loan.due === 'start' ? 'start' : undefined,
      monthEnd: loan.monthEnd || undefined,
      businessDays: businessDaysPart(loan),
      atEnd: loan.atEnd === 'leave' ? 'leave' : undefined,
      phases: loan.stretches.map((stretch, at) => stretchPart(stretch, `payments.phases.${at}`, read)),
    }),
    rounding: roundingPart(loan),
    events: made.events,
  };
  return { entries, eventKeys: made.keys };
}

/** The part of a document that a credit line's fields make. */
export function creditLinePart(
  loan: TypedLoan,
  read: FieldReader,
  kept: readonly KeptEvent[],
): { entries: Record<string, unknown>; eventKeys: readonly string[] } {
  const made = eventsPart(loan.events, read, kept);
  const entries = {
    limit: read.amount('limit', loan.limit),
    start: read.day('start', loan.start),
    matures: read.optional(loan.matures, () => read.day('matures', loan.matures)),
    rate: ratePart(loan, made, read),
    billing: 'month',
    firstBill: read.optional(loan.firstBill, () => read.day('firstBill', loan.firstBill)),
    businessDays: businessDaysPart(loan),
    unusedFee: read.optional(loan.unusedFee, () => read.rate('unusedFee', loan.unusedFee)),
    ...costsPart(loan, read, 'straight-line'),
    rounding: roundingPart(loan),
    events: made.events,
  };
  return { entries, eventKeys: made.keys };
}

function amountPart(loan: TypedLoan, currency: string, read: FieldReader): Record<string, unknown> {
  if (loan.financed === 'purchase') {
    const down = readPartOf(loan.downPayment, loan.price, currency) ?? loan.downPayment;
    return {
      purchase: {
        price: read.amount('purchase.price', loan.price),
        downPayment: read.amount('purchase.downPayment', down),
      },
    };
  }
  const amount = read.solvable(loan.amount, () => read.amount('amount', loan.amount));
  if (loan.financed === 'amount') return { amount };
  const accruedInterest = read.amount('takenOn.accruedInterest', loan.accrued);
  return { amount, takenOn: { accruedInterest } };
}

function costsPart(loan: TypedLoan, read: FieldReader, method = loan.costsMethod): Record<string, unknown> {
  if (loan.costs.trim() === '') return {};
  return {
    issueCosts: { amount: read.amount('issueCosts.amount', loan.costs), method },
  };
}

function ratePart(loan: TypedLoan, made: EventsPart, read: FieldReader): object {
  const annual = read.solvable(loan.rate, () => read.rate('rate.annual', loan.rate));
  const index = loan.floating
    ? present({
        name: loan.indexName.trim() || 'Index',
        margin: read.optional(loan.margin, () => read.signedRate('rate.index.margin', loan.margin)),
        floor: read.optional(loan.floor, () => read.signedRate('rate.index.floor', loan.floor)),
        cap: read.optional(loan.cap, () => read.signedRate('rate.index.cap', loan.cap)),
        resetEvery: loan.resetEvery === 'none' ? undefined : loan.resetEvery,
        payment: loan.indexPayment,
        fixings: made.fixings,
      })
    : undefined;
  return present({
    annual,
    compounding: loan.compounding === 'each-payment' ? undefined : loan.compounding,
    dayCount: loan.dayCount,
    steps: made.steps.length > 0 ? made.steps : undefined,
    index,
  });
}

function businessDaysPart(loan: TypedLoan): object | undefined {
  if (loan.moving === 'none') return undefined;
  return { rule: loan.moving, calendar: loan.calendar, accrual: loan.accrual };
}

function roundingPart(loan: TypedLoan): object | undefined {
  const { interestRounding: interest, paymentRounding: payment, ties } = loan;
  const plain = interest === 'cent' && payment === 'cent' && ties === 'away-from-zero';
  return plain ? undefined : { interest, payment, ties };
}

function stretchPart(stretch: TypedStretch, key: string, read: FieldReader): object {
  const { type, count, amortizeOver, balloon, payment, unpaid } = stretch;
  const counted = (): number | undefined => read.count(`${key}.count`, count);
  const paid = (): string | undefined => read.amount(`${key}.payment`, payment);
  switch (type) {
    case 'interest-only':
      return present({ type, count: counted() });
    case 'fixed':
      return present({ type, payment: paid(), count: read.optional(count, counted) });
    case 'equal-principal': {
      const principal = read.optional(payment, () => read.amount(`${key}.principal`, payment));
      return present({ type, count: counted(), principal });
    }
    case 'no-payment':
      return present({
        type,
        count: counted(),
        interest: unpaid === 'added-each-period' ? unpaid : 'kept-apart',
        then: unpaid === 'kept-then-paid' ? 'pay' : 'add-to-balance',
      });
    case 'custom':
      return { type, payments: listedAmounts(stretch.listed, `${key}.payments`, read) };
    case 'level': {
      const over = read.optional(amortizeOver, () => read.count(`${key}.amortizeOver`, amortizeOver));
      return present({
        type,
        count: read.solvable(count, counted),
        amortizeOver: over,
        payment: read.optional(payment, () => read.solvable(payment, paid)),
        balloon: read.optional(balloon, () => read.amount(`${key}.balloon`, balloon)),
      });
    }
  }
}
