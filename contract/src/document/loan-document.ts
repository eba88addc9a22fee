import * as v from 'valibot';
import { dayCountNames, frequencies } from '@coffer/core';
import { amountText, currencyCode, dayText, paymentCount, rateText, shortText } from './scalars.ts';

/** The version of the document format. */
export const documentVersion = 'coffer.instrument/1';

/** Who the counterparty is and how the register groups the instrument; nothing is computed from these. */
export const descriptionEntries = {
  document: v.literal(documentVersion),
  name: shortText,
  lender: v.optional(shortText),
  agreement: v.optional(shortText),
};

const phase = v.variant('type', [
  v.strictObject({
    type: v.literal('level'),
    count: paymentCount,
    amortizeOver: v.optional(paymentCount),
    payment: v.optional(amountText),
  }),
  v.strictObject({ type: v.literal('fixed'), payment: amountText, count: v.optional(paymentCount) }),
  v.strictObject({ type: v.literal('interest-only'), count: paymentCount }),
]);

const event = v.variant('type', [
  v.strictObject({
    type: v.literal('extra-principal'),
    on: v.optional(dayText),
    every: v.optional(v.literal('payment')),
    from: v.optional(dayText),
    to: v.optional(dayText),
    amount: amountText,
    then: v.optional(v.picklist(['shorten'])),
  }),
  v.strictObject({ type: v.literal('paid'), on: dayText, due: dayText, amount: amountText }),
]);

/** A loan as a document. */
export const loanDocument = v.strictObject({
  ...descriptionEntries,
  kind: v.literal('loan'),
  class: v.optional(v.picklist(['term-loan', 'note'])),
  currency: currencyCode,
  amount: v.optional(amountText),
  purchase: v.optional(v.strictObject({ price: amountText, downPayment: amountText })),
  start: dayText,
  rate: v.strictObject({
    annual: rateText,
    compounding: v.optional(v.picklist(['each-payment'])),
    dayCount: v.optional(v.picklist(dayCountNames)),
  }),
  payments: v.strictObject({
    every: v.picklist(frequencies),
    first: dayText,
    due: v.optional(v.picklist(['end'])),
    monthEnd: v.optional(v.boolean()),
    atEnd: v.optional(v.picklist(['pay'])),
    phases: v.pipe(
      v.array(phase),
      v.minLength(1, 'expected at least one phase.'),
      v.maxLength(100, 'expected at most 100 phases.'),
    ),
  }),
  rounding: v.optional(
    v.strictObject({
      interest: v.optional(v.picklist(['cent', 'unit'])),
      payment: v.optional(v.picklist(['cent', 'cent-up', 'unit'])),
      ties: v.optional(v.picklist(['away-from-zero', 'even'])),
    }),
  ),
  events: v.optional(v.pipe(v.array(event), v.maxLength(5000, 'expected at most 5000 events.'))),
});

export type LoanDocument = v.InferOutput<typeof loanDocument>;
export type LoanEventDocument = v.InferOutput<typeof event>;
