import type { LoanSchedule } from '@coffer/core';
import type { InstrumentDocument, LoanDocument } from '@coffer/contract';
import { loanScheduleModel } from '../instrument/schedule/loan-schedule-model';
import { loanStretchRows } from '../instrument/stretches/stretch-rows';
import type { FormKind } from '../terms/form/form-kind';
import { loanFormKind } from '../terms/form/loan-form-kind';
import { termsForm } from '../terms/form/terms-form';
import { loanPreview } from '../terms/preview/loan-preview';
import { stretchSpans } from '../terms/timeline/stretch-spans';
import type { TimelineModel } from '../terms/timeline/timeline-model';
import type { ViewKind } from './view-kind';

/** Draws an agreement on its life as it would be typed. */
export function drawnAs<Document extends InstrumentDocument>(
  kind: FormKind<Document>,
): (document: Document, schedule: LoanSchedule) => TimelineModel | undefined {
  return (document, schedule) => {
    const form = termsForm();
    kind.fill(form, document);
    return kind.timeline(form.getRawValue(), stretchSpans(schedule));
  };
}

/** Loans on the pages. */
export const loanView: ViewKind<LoanDocument, LoanSchedule> = {
  tabs: ['try', 'fund'],
  words: { lender: 'Lender', owed: 'Outstanding', accrued: 'Accrued interest' },
  carriedApart: false,
  accrues: () => true,
  costsDeferred: () => false,
  overpays: ({ overpaid }) => overpaid.some((amount) => amount > 0),
  dueLast({ principal, extra, closing, length, terms }) {
    const last = length - 1;
    return (principal[last] as number) + (extra[last] as number) + (closing[last] as number) || terms.amount;
  },
  model: loanScheduleModel,
  stretchRows: loanStretchRows,
  timeline: drawnAs(loanFormKind),
  form: loanFormKind,
  preview: loanPreview,
};
