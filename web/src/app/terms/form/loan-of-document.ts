import { showDay, showDecimal, type CreditLineDocument, type LoanDocument } from '@coffer/contract';
import { eventForm, type TypedEvent } from './event-form';
import type { KeptEvent } from './events-part';
import { stretchForm, type TypedStretch } from './stretch-form';
import type { TermsForm } from './terms-form';
import { amountOf, dayOf, percentOf } from './typed-text';

type EventDocument = NonNullable<(LoanDocument | CreditLineDocument)['events']>[number];

const countOf = (count: number | '?' | undefined): string => (count === undefined ? '' : String(count));

/** Fills the form from a loan; gives back the events that the form does not show. */
export function fillLoan(form: TermsForm, document: LoanDocument): KeptEvent[] {
  const { loan } = form.controls;
  const { payments, purchase, takenOn } = document;
  loan.patchValue({
    class: document.class ?? 'term-loan',
    financed: purchase ? 'purchase' : takenOn ? 'taken-on' : 'amount',
    amount: amountOf(document.amount),
    price: amountOf(purchase?.price),
    downPayment: amountOf(purchase?.downPayment),
    accrued: amountOf(takenOn?.accruedInterest),
    every: payments.every,
    first: dayOf(payments.first),
    last: dayOf(payments.last),
    due: payments.due ?? 'end',
    monthEnd: payments.monthEnd ?? false,
    moving: payments.businessDays?.rule ?? 'none',
    calendar: payments.businessDays?.calendar ?? 'TARGET',
    accrual: payments.businessDays?.accrual ?? 'unmoved',
    atEnd: payments.atEnd ?? 'pay',
  });
  loan.controls.stretches.clear();
  for (const phase of payments.phases) loan.controls.stretches.push(stretchForm(stretchOf(phase)));
  return fillRateAndEvents(form, document);
}

function stretchOf(phase: LoanDocument['payments']['phases'][number]): Partial<TypedStretch> {
  switch (phase.type) {
    case 'custom':
      return {
        type: 'custom',
        listed: phase.payments.map(({ on, amount }) => `${showDay(on)}  ${showDecimal(amount)}`).join('\n'),
      };
    case 'no-payment': {
      const kept = phase.then === 'pay' ? 'kept-then-paid' : 'kept-then-added';
      const unpaid = phase.interest === 'kept-apart' ? kept : 'added-each-period';
      return { type: 'no-payment', count: countOf(phase.count), unpaid };
    }
    case 'equal-principal':
      return { type: phase.type, count: countOf(phase.count), payment: amountOf(phase.principal) };
    case 'interest-only':
      return { type: phase.type, count: countOf(phase.count) };
    case 'fixed':
      return { type: phase.type, count: countOf(phase.count), payment: amountOf(phase.payment) };
    case 'level':
      return {
        type: phase.type,
        count: countOf(phase.count),
        amortizeOver: countOf(phase.amortizeOver),
        balloon: amountOf(phase.balloon),
        payment: amountOf(phase.payment),
      };
  }
}

/** Fills the form from a credit line; gives back the events that the form does not show. */
export function fillCreditLine(form: TermsForm, document: CreditLineDocument): KeptEvent[] {
  form.controls.loan.patchValue({
    limit: amountOf(document.limit),
    matures: dayOf(document.matures),
    firstBill: dayOf(document.firstBill),
    unusedFee: percentOf(document.unusedFee),
    moving: document.businessDays?.rule ?? 'none',
    calendar: document.businessDays?.calendar ?? 'TARGET',
    accrual: document.businessDays?.accrual ?? 'unmoved',
  });
  return fillRateAndEvents(form, document);
}

function fillRateAndEvents(form: TermsForm, document: LoanDocument | CreditLineDocument): KeptEvent[] {
  const { loan } = form.controls;
  const { rate, rounding, issueCosts } = document;
  const { index } = rate;
  loan.patchValue({
    start: dayOf(document.start),
    rate: percentOf(rate.annual),
    compounding: rate.compounding ?? 'each-payment',
    dayCount: rate.dayCount ?? 'even-periods',
    floating: index !== undefined,
    indexName: index?.name ?? '',
    margin: percentOf(index?.margin),
    floor: percentOf(index?.floor),
    cap: percentOf(index?.cap),
    resetEvery: index?.resetEvery ?? 'none',
    indexPayment: index?.payment ?? 're-level',
    costs: amountOf(issueCosts?.amount),
    costsMethod: issueCosts?.method ?? 'effective',
    interestRounding: rounding?.interest ?? 'cent',
    paymentRounding: rounding?.payment ?? 'cent',
    ties: rounding?.ties ?? 'away-from-zero',
  });
  const { events } = loan.controls;
  events.clear();
  for (const { from, annual, payment } of rate.steps ?? []) {
    const typed = { on: dayOf(from), rate: percentOf(annual), then: payment ?? 're-level' } as const;
    events.push(eventForm({ type: 'rate-step', ...typed }));
  }
  for (const { on, rate: fixed } of index?.fixings ?? []) {
    events.push(eventForm({ type: 'fixing', on: dayOf(on), rate: percentOf(fixed) }));
  }
  const kept: KeptEvent[] = [];
  for (const event of document.events ?? []) {
    if (event.type === 'paid') kept.push(event);
    else events.push(eventForm(eventOf(event)));
  }
  return kept;
}

function eventOf(event: Exclude<EventDocument, { type: 'paid' }>): Partial<TypedEvent> {
  const on = dayOf(event.on);
  switch (event.type) {
    case 'extra-principal': {
      const amount = amountOf(event.amount);
      const then = event.then === 're-level' ? 're-level' : 'keep';
      if (event.every === undefined) return { type: 'extra', on, amount, then };
      return { type: 'extra-each', from: dayOf(event.from), to: dayOf(event.to), amount, then };
    }
    case 'draw':
      return { type: 'draw', on, amount: amountOf(event.amount), then: event.then ?? 'keep' };
    case 'fee':
      return { type: 'fee', on, amount: amountOf(event.amount), treatment: event.treatment ?? 'expense' };
    case 'repayment':
      return { type: 'repayment', on, amount: amountOf(event.amount) };
    case 'payment-change':
      return { type: 'payment-change', on, amount: amountOf(event.payment) };
    case 'presentation':
      return { type: 'presentation', on, to: dayOf(event.to), as: event.as, reason: event.reason };
    case 'interest-added':
      return { type: 'interest-added', on };
    case 'settled':
      return { type: 'settled', on, amount: amountOf(event.amount) };
    case 'overpayment-returned':
      return { type: 'overpayment-returned', on, amount: amountOf(event.amount) };
    case 'renewal':
      return {
        type: 'renewal',
        on,
        rate: percentOf(event.annual),
        count: countOf(event.count),
        amortizeOver: countOf(event.amortizeOver),
        every: event.every ?? 'same',
        amount: amountOf(event.payment),
      };
  }
}
