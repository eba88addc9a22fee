import type { CreditLineDocument } from '@coffer/contract';
import { timelineModel } from '../timeline/timeline-model';
import { fillCreditLine } from './loan-of-document';
import type { FormKind } from './form-kind';
import { loanFormKind } from './loan-form-kind';
import { creditLinePart } from './loan-part';

/** Credit lines as they are typed: in the fields of a loan, without stretches. */
export const creditLineFormKind: FormKind<CreditLineDocument> = {
  ...loanFormKind,
  stretches: false,
  billed: true,
  part: (typed, _currency, read, kept) => creditLinePart(typed.loan, read, kept),
  fill: fillCreditLine,
  timeline: ({ loan }, life) => timelineModel(loan, life, true),
};
