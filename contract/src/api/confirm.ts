import * as v from 'valibot';

/** What is asked about before it is done, each by a word that programs can rely on. */
export const confirmCodes = [
  'overpaid',
  'far-from-due',
  'due-later',
  'paid-in-closed-month',
  'starts-in-closed-month',
  'closed-months-change',
  'month-not-ended',
  'payments-unrecorded',
  'fixings-missing',
  'hand-in-settings',
  'one-person-behind-both',
  'other-kind',
  'comment-unanswered',
] as const;
export type ConfirmCode = (typeof confirmCodes)[number];

/** What of what was asked about is meant so: the call is repeated with these words. */
export const confirm = v.optional(v.array(v.picklist(confirmCodes)), []);

/** Something that is asked about before it is done. */
export const question = v.strictObject({
  code: v.picklist(confirmCodes),
  /** The field that it is about; empty for the whole. */
  key: v.string(),
  message: v.string(),
});
export type Question = v.InferOutput<typeof question>;
