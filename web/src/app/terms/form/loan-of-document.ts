import type { CreditLineDocument, LoanDocument, PhaseDocument } from '@coffer/contract';
import { fieldsOf } from '../../fields/field';
import { typedOf } from '../../fields/described-part';
import { amountOf } from '../../fields/typed-text';
import { typedEvents, type DescribedEvents } from '../described/described-event';
import { lineEventFields, loanEventFields } from '../described/event-fields';
import { lineSections } from '../described/line-sections';
import { loanSections } from '../described/loan-sections';
import { fieldsOfStretch } from '../described/stretch-fields';
import { eventForm, type EventType, type TypedEvent } from './event-form';
import type { TypedLoan } from './loan-form';
import type { KeptEvent } from './part-of-form';
import { seasonalStretch, type SeasonalStretch } from './seasons';
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
  for (const stretch of stretchesOf(document, loan.getRawValue()))
    loan.controls.stretches.push(stretchForm(stretch));
  return fillEvents(form, document, loanEventFields);
}

/** The stretches of a document, seasons of one stretch told as one. `loan` has its due dates. */
function stretchesOf({ payments: { phases } }: LoanDocument, loan: TypedLoan): Partial<TypedStretch>[] {
  const stretches: Partial<TypedStretch>[] = [];
  let before: number | undefined = 0;
  for (let at = 0; at < phases.length;) {
    const phase = phases[at] as PhaseDocument;
    const seasonal: SeasonalStretch | undefined =
      before === undefined ? undefined : seasonalStretch(loan, phases.slice(at), before);
    const count: unknown = seasonal?.stretch.count ?? ('count' in phase ? phase.count : undefined);
    stretches.push(seasonal?.stretch ?? stretchOf(phase));
    at += seasonal?.phases ?? 1;
    before = before === undefined || !/^\d+$/.test(String(count)) ? undefined : before + Number(count);
  }
  return stretches;
}

function stretchOf(phase: PhaseDocument): Partial<TypedStretch> {
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
