import type { ConfirmCode } from '../api/confirm.ts';

/** Of a payment that fell due and of which nothing is recorded. */
export const notRecorded = 'not recorded, assumed paid';
/** The same where there is little room, and what it means. */
export const assumedPaid = {
  text: 'assumed paid',
  tip: 'Not recorded: figures treat it as paid on its due date until it is recorded',
} as const;

/** What was agreed to by name, as a sentence goes on. */
export const agreedWords: Readonly<Record<ConfirmCode, string>> = {
  overpaid: 'more paid than is owed',
  'far-from-due': 'a payment far from its due date',
  'due-later': 'a payment before its due date',
  'paid-in-closed-month': 'a payment in a closed month',
  'starts-in-closed-month': 'a beginning in a closed month',
  'closed-months-change': 'a change of what closed months reported',
  'month-not-ended': 'a month that has not ended',
  'payments-unrecorded': 'payments not recorded, assumed paid',
  'fixings-missing': 'rates that were not fixed',
  'hand-in-settings': 'a hand of who approves in what the month rests on, or in who reviews',
  'one-person-behind-both': 'one person who may stand behind both',
  'other-kind': 'an account of another kind',
  'comment-unanswered': 'a comment that nobody answered',
};
