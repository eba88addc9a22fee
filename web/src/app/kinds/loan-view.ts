import type { LoanSchedule } from '@coffer/core';
import type { LoanDocument } from '@coffer/contract';
import { loanScheduleModel } from '../instrument/loan-schedule-model';
import { loanStretchRows } from '../instrument/stretch-rows';
import { unpaidTitle } from '../instrument/unpaid-name';
import { loanFormKind } from '../terms/form/loan-form-kind';
import { termsForm } from '../terms/form/terms-form';
import { loanPreview } from '../terms/preview/loan-preview';
import { stretchSpans } from '../terms/timeline/stretch-spans';
import type { ViewKind } from './view-kind';

/** Loans on the pages. */
export const loanView: ViewKind<LoanDocument, LoanSchedule> = {
  tabs: ['try', 'fund'],
  words: { lender: 'Lender', owed: 'Outstanding', accrued: 'Accrued interest' },
  carriedApart: false,
  accrues: () => true,
  unpaidTitle,
  costsDeferred: () => false,
  overpays: ({ overpaid }) => overpaid.some((amount) => amount > 0),
  dueLast({ principal, extra, closing, length, terms }) {
    const last = length - 1;
    return (principal[last] as number) + (extra[last] as number) + (closing[last] as number) || terms.amount;
  },
  model: loanScheduleModel,
  stretchRows: loanStretchRows,
  timeline(document, schedule) {
    const form = termsForm();
    loanFormKind.fill(form, document);
    return loanFormKind.timeline(form.getRawValue(), stretchSpans(schedule));
  },
  form: loanFormKind,
  preview: loanPreview,
};
