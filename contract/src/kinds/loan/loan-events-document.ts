import * as v from 'valibot';
import { frequencies } from '@coffer/core';
import { amountText, dayText, paymentCount, rateText, riseText, shortText } from '../../document/scalars.ts';

const fee = v.strictObject({
  type: v.literal('fee'),
  on: dayText,
  amount: amountText,
  treatment: v.optional(v.picklist(['expense', 'defer'])),
});
/** All of an instrument presented as current, or as non-current, from a day on, with the reason. */
export const presentation = v.strictObject({
  type: v.literal('presentation'),
  on: dayText,
  to: v.optional(dayText),
  as: v.picklist(['current', 'non-current']),
  reason: shortText,
});
const draw = v.strictObject({
  type: v.literal('draw'),
  on: dayText,
  amount: amountText,
  then: v.optional(v.picklist(['keep', 're-level'])),
});

const overpaymentReturned = v.strictObject({
  type: v.literal('overpayment-returned'),
  on: dayText,
  amount: amountText,
});

const loanEvent = v.variant('type', [
  v.strictObject({
    type: v.literal('extra-principal'),
    on: v.optional(dayText),
    every: v.optional(v.literal('payment')),
    from: v.optional(dayText),
    to: v.optional(dayText),
    amount: amountText,
    /** By how much it rises each year after `from`; with every payment. */
    rises: v.optional(riseText),
    then: v.optional(v.picklist(['shorten', 're-level'])),
  }),
  v.strictObject({
    type: v.literal('payment-change'),
    on: dayText,
    payment: amountText,
    /** By how much it rises each year after the day, until another payment is agreed. */
    rises: v.optional(riseText),
  }),
  draw,
  fee,
  v.strictObject({ type: v.literal('paid'), on: dayText, due: dayText, amount: amountText }),
  v.strictObject({ type: v.literal('interest-added'), on: dayText }),
  v.strictObject({ type: v.literal('settled'), on: dayText, amount: v.optional(amountText) }),
  overpaymentReturned,
  v.strictObject({
    type: v.literal('renewal'),
    on: dayText,
    annual: rateText,
    count: paymentCount,
    amortizeOver: v.optional(paymentCount),
    every: v.optional(v.picklist(frequencies)),
    payment: v.optional(amountText),
  }),
  presentation,
]);

/** What happens to a loan besides its agreed payments. */
export const loanEvents = v.pipe(v.array(loanEvent), v.maxLength(5000, 'expected at most 5000 events.'));

/** What happens to a credit line. */
export const creditLineEvents = v.pipe(
  v.array(
    v.variant('type', [
      draw,
      fee,
      v.strictObject({ type: v.literal('repayment'), on: dayText, amount: amountText }),
      v.strictObject({ type: v.literal('paid'), on: dayText, due: dayText, amount: amountText }),
      overpaymentReturned,
      presentation,
    ]),
  ),
  v.maxLength(5000, 'expected at most 5000 events.'),
);

export type LoanEventDocument = v.InferOutput<typeof loanEvent>;
export type CreditLineEventDocument = v.InferOutput<typeof creditLineEvents>[number];
