import type { LoanSchedule } from '@coffer/core';
import type { DocumentKind } from '../document-kind.ts';
import { loanDocumentKind } from '../loan/loan-document-kind.ts';
import { rateAndEventFacts } from '../loan/rate-facts.ts';
import { indexWords, rateWords } from '../loan/rate-words.ts';
import type { CreditLineDocument } from './credit-line-document.ts';
import { creditLineFacts } from './credit-line-facts.ts';
import { creditLineTermsOf } from './credit-line-terms-of.ts';

/** Documents of credit lines: their schedules are as a loan's. */
export const creditLineDocumentKind: DocumentKind<CreditLineDocument, LoanSchedule> = {
  ...loanDocumentKind,
  termsOf: creditLineTermsOf,
  keys: {
    amount: 'limit',
    'payments.first': 'firstBill',
    'payments.last': 'matures',
    'payments.businessDays.closed': 'businessDays.closed',
    'payments.phases.0.count': 'matures',
  },
  facts: creditLineFacts,
  events: rateAndEventFacts,
  varied: () => undefined,
  summary: (document, schedule, on) => ({
    class: 'credit-line',
    pattern: `credit line, billed monthly${indexWords(schedule.terms)}`,
    ...rateWords(schedule, on),
    matures: document.matures ?? null,
    borrowed: schedule.terms.creditLine?.limit ?? 0,
  }),
};
