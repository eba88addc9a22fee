import * as v from 'valibot';
import { compoundings, dayCountNames, frequencies } from '@coffer/core';
import { descriptionEntries } from '../loan/loan-document.ts';
import {
  amountOrUnknown,
  amountText,
  countOrUnknown,
  currencyCode,
  dayText,
  rateText,
  shortText,
} from '../../document/scalars.ts';

/**
 * A sinking fund as a document: deposits that earn interest until they repay the instrument named in `for`. Of goal,
 * deposit and count any one may be left out or `?`; listed `deposits` stand in place of deposit and count.
 */
export const fundDocument = v.strictObject({
  ...descriptionEntries,
  kind: v.literal('fund'),
  currency: currencyCode,
  goal: v.optional(amountOrUnknown),
  rate: v.strictObject({
    annual: rateText,
    compounding: v.optional(v.picklist(compoundings)),
    dayCount: v.optional(v.picklist(dayCountNames)),
  }),
  every: v.picklist(frequencies),
  first: v.optional(dayText),
  monthEnd: v.optional(v.boolean()),
  deposit: v.optional(amountOrUnknown),
  count: v.optional(countOrUnknown),
  deposits: v.optional(
    v.pipe(
      v.array(v.strictObject({ on: dayText, amount: amountText })),
      v.minLength(1, 'expected at least one deposit.'),
      v.maxLength(1200, 'expected at most 1200 deposits.'),
    ),
  ),
  opening: v.optional(v.strictObject({ on: dayText, amount: amountText })),
  rounding: v.optional(
    v.strictObject({
      interest: v.optional(v.picklist(['cent', 'unit', 'none'])),
      deposit: v.optional(v.picklist(['cent', 'cent-up', 'unit', 'none'])),
      ties: v.optional(v.picklist(['away-from-zero', 'even'])),
    }),
  ),
  for: v.optional(shortText),
  /** Deposits as they were made; the others are made as agreed. */
  events: v.optional(
    v.pipe(
      v.array(v.strictObject({ type: v.literal('paid'), on: dayText, due: dayText, amount: amountText })),
      v.maxLength(1200, 'expected at most 1200 deposits.'),
    ),
  ),
});

export type FundDocument = v.InferOutput<typeof fundDocument>;

/** Whether a value says of itself that it is a fund's document; what else it says is not looked at. */
export function claimsToBeFund(value: unknown): boolean {
  return v.is(v.looseObject({ kind: v.literal('fund') }), value);
}
