import * as v from 'valibot';
import { businessCalendars, businessDayRules, frequencies } from '@coffer/core';
import { loanEvents } from './loan-events-document.ts';
import { rateDocument } from '../../document/rate-document.ts';
import {
  amountOrUnknown,
  amountText,
  countOrUnknown,
  currencyCode,
  dayText,
  paymentCount,
  riseText,
  shortText,
} from '../../document/scalars.ts';

/** The version of the document format. */
export const documentVersion = 'coffer.instrument/1';

/** Who the counterparty is and how the register groups the instrument; nothing is computed from these. */
export const descriptionEntries = {
  document: v.literal(documentVersion),
  name: shortText,
  lender: v.optional(shortText),
  agreement: v.optional(shortText),
};

/** Where and how amounts are rounded. */
export const loanRounding = v.strictObject({
  interest: v.optional(v.picklist(['cent', 'unit', 'none'])),
  payment: v.optional(v.picklist(['cent', 'cent-up', 'unit', 'none'])),
  ties: v.optional(v.picklist(['away-from-zero', 'even'])),
});

/** The most days that an agreement has closed besides those of its calendar: a dozen a year for a century. */
const mostClosedDays = 1200;

/** How due dates that are not business days move. */
export const businessDays = v.strictObject({
  rule: v.picklist(businessDayRules),
  calendar: v.picklist(businessCalendars),
  /** Days that are closed besides those of the calendar. */
  closed: v.optional(
    v.pipe(v.array(dayText), v.maxLength(mostClosedDays, `expected at most ${mostClosedDays} days.`)),
  ),
  accrual: v.optional(v.picklist(['moved', 'unmoved'])),
});

/** Costs of obtaining a loan and how they are amortized. */
export const issueCosts = v.strictObject({
  amount: amountText,
  method: v.optional(v.picklist(['effective', 'straight-line'])),
});

const phase = v.variant('type', [
  v.strictObject({
    type: v.literal('level'),
    count: countOrUnknown,
    amortizeOver: v.optional(paymentCount),
    payment: v.optional(amountOrUnknown),
    balloon: v.optional(amountText),
  }),
  v.strictObject({
    type: v.literal('fixed'),
    payment: amountText,
    /** By how much it rises each year after the first of these payments. */
    rises: v.optional(riseText),
    count: v.optional(paymentCount),
  }),
  v.strictObject({
    type: v.literal('equal-principal'),
    count: paymentCount,
    principal: v.optional(amountText),
  }),
  v.strictObject({ type: v.literal('interest-only'), count: paymentCount }),
  v.strictObject({
    type: v.literal('no-payment'),
    count: paymentCount,
    interest: v.optional(v.picklist(['added-each-period', 'kept-apart'])),
    then: v.optional(v.picklist(['add-to-balance', 'pay'])),
  }),
  v.strictObject({
    type: v.literal('custom'),
    payments: v.pipe(
      v.array(v.strictObject({ on: dayText, amount: amountText })),
      v.minLength(1, 'expected at least one payment.'),
      v.maxLength(1200, 'expected at most 1200 payments.'),
    ),
  }),
]);

/** A loan as a document. */
export const loanDocument = v.strictObject({
  ...descriptionEntries,
  kind: v.literal('loan'),
  class: v.optional(v.picklist(['term-loan', 'note'])),
  currency: currencyCode,
  amount: v.optional(amountOrUnknown),
  purchase: v.optional(v.strictObject({ price: amountText, downPayment: amountText })),
  takenOn: v.optional(v.strictObject({ accruedInterest: amountText })),
  issueCosts: v.optional(issueCosts),
  start: dayText,
  rate: rateDocument,
  payments: v.strictObject({
    every: v.picklist(frequencies),
    first: dayText,
    last: v.optional(dayText),
    due: v.optional(v.picklist(['end', 'start'])),
    monthEnd: v.optional(v.boolean()),
    businessDays: v.optional(businessDays),
    atEnd: v.optional(v.picklist(['pay', 'leave'])),
    phases: v.pipe(
      v.array(phase),
      v.minLength(1, 'expected at least one phase.'),
      v.maxLength(100, 'expected at most 100 phases.'),
    ),
  }),
  rounding: v.optional(loanRounding),
  events: v.optional(loanEvents),
});

export type LoanDocument = v.InferOutput<typeof loanDocument>;
export type BusinessDaysDocument = v.InferOutput<typeof businessDays>;
export type PhaseDocument = v.InferOutput<typeof phase>;
