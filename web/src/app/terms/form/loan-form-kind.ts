import type { LoanDocument } from '@coffer/contract';
import { timelineModel } from '../timeline/timeline-model';
import { eventForm } from './event-form';
import type { FormKind } from './form-kind';
import { fillLoan } from './loan-of-document';
import { loanPart } from './loan-part';
import { stretchForm } from './stretch-form';
import { termsForm } from './terms-form';

/** Loans as they are typed. */
export const loanFormKind: FormKind<LoanDocument> = {
  fields: 'agreement',
  stretches: true,
  billed: false,
  offers: ['loan', 'credit-line'],
  part: (typed, currency, read, kept) => loanPart(typed.loan, currency, read, kept),
  fill: fillLoan,
  begun(point, typed) {
    const { amount, start, rate, first } = typed.loan;
    const loan = {
      ...termsForm().getRawValue().loan,
      amount,
      start,
      rate,
      first,
      ...point.loan,
      stretches: (point.stretches ?? []).map((stretch) => stretchForm(stretch).getRawValue()),
      events: (point.events ?? []).map((event) => eventForm(event).getRawValue()),
    };
    return { ...typed, kind: point.kind, loan };
  },
  timeline: ({ loan }, life) => timelineModel(loan, life, false),
};
