import { solveUnknown, type LoanSchedule } from '@coffer/core';
import { debtPositionJson, debtPositionSchema } from '../debt-position-json.ts';
import { onPaper } from '../../document/schedule-column.ts';
import { loanColumnsOf, loanScheduleColumns } from './loan-schedule-columns.ts';
import type { DocumentKind } from '../document-kind.ts';
import type { LoanDocument } from './loan-document.ts';
import { changedDocument } from '../../variants/terms-change.ts';
import { loanFacts } from './loan-facts.ts';
import { loanHeadline } from './loan-headline.ts';
import { loanScheduleJson, loanScheduleSchema } from './loan-schedule-json.ts';
import { loanSurprises } from './loan-surprises.ts';
import { loanSummary } from './loan-summary.ts';
import { loanTermsOf } from './loan-terms-of.ts';
import { noticeText } from './notice-text.ts';
import { rateAndEventFacts } from './rate-facts.ts';
import { unmatchedPayments } from './unmatched-payments.ts';

/** Documents of loans. */
export const loanDocumentKind: DocumentKind<LoanDocument, LoanSchedule> = {
  recordsPayments: true,
  termsOf(document, read) {
    const { terms, unknown } = loanTermsOf(document, read);
    return unknown && read.faults.length === 0 ? solveUnknown(terms, unknown) : terms;
  },
  keys: {},
  unmatched: unmatchedPayments,
  published: { schedule: loanScheduleSchema, position: debtPositionSchema },
  json: loanScheduleJson,
  columns: (schedule) => onPaper(loanScheduleColumns, loanColumnsOf(schedule)),
  positionJson: debtPositionJson,
  facts: loanFacts,
  events: rateAndEventFacts,
  issue: () => [],
  notices: (schedule) => schedule.notices.map((notice) => noticeText(schedule, notice)),
  headline: loanHeadline,
  surprises: loanSurprises,
  varied: changedDocument,
  summary: loanSummary,
};
