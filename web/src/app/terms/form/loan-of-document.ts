import type { CreditLineDocument, LoanDocument } from '@coffer/contract';
import { fieldsOf } from '../../fields/field';
import { typedOf } from '../../fields/described-part';
import { amountOf } from '../../fields/typed-text';
import { typedEvents, type DescribedEvents } from '../described/described-event';
import { lineEventFields, loanEventFields } from '../described/event-fields';
import { lineSections } from '../described/line-sections';
import { loanSections } from '../described/loan-sections';
import { fieldsOfStretch } from '../described/stretch-fields';
import { eventForm, type EventType, type TypedEvent } from './event-form';
import type { KeptEvent } from './part-of-form';
import { stretchForm, type TypedStretch } from './stretch-form';
import type { TermsForm } from './terms-form';

/** Fills the form from a loan; gives back the events that the form does not show. */
export function fillLoan(form: TermsForm, document: LoanDocument): KeptEvent[] {
  const { loan } = form.controls;
  const { purchase, takenOn } = document;
  loan.reset();
  loan.patchValue({
    ...typedOf(fieldsOf(loanSections), document),
    financed: purchase ? 'purchase' : takenOn ? 'taken-on' : 'amount',
    downPayment: amountOf(purchase?.downPayment),
  });
  loan.controls.stretches.clear();
  for (const phase of document.payments.phases) loan.controls.stretches.push(stretchForm(stretchOf(phase)));
  return fillEvents(form, document, loanEventFields);
}

function stretchOf(phase: LoanDocument['payments']['phases'][number]): Partial<TypedStretch> {
  const typed = { ...typedOf(fieldsOfStretch(phase.type), phase), type: phase.type };
  if (phase.type !== 'no-payment') return typed;
  const kept = phase.then === 'pay' ? 'kept-then-paid' : 'kept-then-added';
  return { ...typed, unpaid: phase.interest === 'kept-apart' ? kept : 'added-each-period' };
}

/** Fills the form from a credit line; gives back the events that the form does not show. */
export function fillCreditLine(form: TermsForm, document: CreditLineDocument): KeptEvent[] {
  form.controls.loan.reset();
  form.controls.loan.patchValue(typedOf(fieldsOf(lineSections), document));
  return fillEvents(form, document, lineEventFields);
}

function fillEvents(
  form: TermsForm,
  document: LoanDocument | CreditLineDocument,
  described: DescribedEvents<EventType, TypedEvent>,
): KeptEvent[] {
  const { loan } = form.controls;
  const { rate, rounding } = document;
  loan.patchValue({
    floating: rate.index !== undefined,
    paymentRounding: rounding?.payment ?? 'cent',
  });
  const kept = (document.events ?? []).filter(({ type }) => type === 'paid');
  const shown = (document.events ?? []).filter(({ type }) => type !== 'paid');
  loan.controls.events.clear();
  for (const event of [
    ...typedEvents(described, 'rate.steps', rate.steps ?? []),
    ...typedEvents(described, 'rate.index.fixings', rate.index?.fixings ?? []),
    ...typedEvents(described, 'events', shown),
  ]) {
    loan.controls.events.push(eventForm(event));
  }
  return kept;
}
