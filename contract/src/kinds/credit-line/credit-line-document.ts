import * as v from 'valibot';
import { creditLineEvents } from '../loan/loan-events-document.ts';
import { businessDays, descriptionEntries, issueCosts, loanRounding } from '../loan/loan-document.ts';
import { rateDocument } from '../../document/rate-document.ts';
import { amountText, currencyCode, dayText, rateText } from '../../document/scalars.ts';

/**
 * A credit line as a document: draws and repayments on any day up to a limit, interest on each day's balance billed
 * monthly (on the month's last day, or on the days counted from `firstBill`), and a fee on what is not drawn.
 */
export const creditLineDocument = v.strictObject({
  ...descriptionEntries,
  kind: v.literal('credit-line'),
  currency: currencyCode,
  limit: amountText,
  start: dayText,
  matures: v.optional(dayText),
  rate: rateDocument,
  billing: v.optional(v.picklist(['month'])),
  firstBill: v.optional(dayText),
  businessDays: v.optional(businessDays),
  unusedFee: v.optional(rateText),
  issueCosts: v.optional(issueCosts),
  rounding: v.optional(loanRounding),
  events: v.optional(creditLineEvents),
});

export type CreditLineDocument = v.InferOutput<typeof creditLineDocument>;
