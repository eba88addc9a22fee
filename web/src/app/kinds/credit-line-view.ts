import type { LoanSchedule } from '@coffer/core';
import type { CreditLineDocument } from '@coffer/contract';
import { lineStretchRows } from '../instrument/stretches/stretch-rows';
import { creditLineFormKind } from '../terms/form/credit-line-form-kind';
import { creditLinePreview } from '../terms/preview/credit-line-preview';
import { drawnAs, loanView } from './loan-view';
import type { ViewKind } from './view-kind';

/** Credit lines on the pages: as loans, but that nothing is tried of them. */
export const creditLineView: ViewKind<CreditLineDocument, LoanSchedule> = {
  ...loanView,
  tabs: [],
  costsDeferred: ({ terms }) => terms.issueCosts !== undefined,
  stretchRows: lineStretchRows,
  timeline: drawnAs(creditLineFormKind),
  form: creditLineFormKind,
  preview: creditLinePreview,
};
