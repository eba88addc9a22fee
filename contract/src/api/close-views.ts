import * as v from 'valibot';
import { accountRoles, accrualChoices } from '@coffer/core';
import { dayText } from '../document/scalars.ts';
import { broughtIn } from './account-views.ts';
import { confirmCodes, question } from './confirm.ts';
import { closeFund } from './fund-views.ts';
import { instrumentId, minorUnits } from './ids.ts';
import { materiality } from './materiality.ts';
import {
  attention,
  closedWays,
  entrySum,
  figuresView,
  periodStates,
  unrecordedPayment,
  unworkable,
} from './views.ts';

/** What a close comes to, in hexadecimal. */
export const digest = v.pipe(v.string(), v.regex(/^[0-9a-f]{64}$/, 'expected the digest of a close.'));

/** The end of the audit trail at a moment: whoever notes it can tell later whether the trail was cut. */
export const trailHead = v.strictObject({
  event: v.number(),
  /** SHA-256 in hexadecimal. */
  hash: v.string(),
});
export type TrailHead = v.InferOutput<typeof trailHead>;

/** What somebody says about a month, or about one instrument in it. */
export const commentText = v.pipe(
  v.string(),
  v.trim(),
  v.minLength(1, 'Say what is to be seen to.'),
  v.maxLength(2000, 'expected at most 2,000 characters.'),
);

/** A comment on a month; about the whole of it where it names no instrument. */
export const monthComment = v.strictObject({
  instrumentId: v.nullable(instrumentId),
  text: v.string(),
  by: v.nullable(v.string()),
  at: v.string(),
});
export type MonthComment = v.InferOutput<typeof monthComment>;

/** A step of a month from one state to another. */
export const monthStep = v.strictObject({
  step: v.picklist(['handed-over', 'returned', 'closed']),
  by: v.nullable(v.string()),
  at: v.string(),
  /** Of a return: what is to be seen to. */
  comment: v.nullable(v.string()),
  /** What was asked about and confirmed by name. */
  confirmed: v.array(v.picklist(confirmCodes)),
});
export type MonthStep = v.InferOutput<typeof monthStep>;

/** Something of a month that is not as it was handed over. */
export const monthChange = v.strictObject({
  /** Null for what is about all of them. */
  instrumentId: v.nullable(instrumentId),
  name: v.string(),
  /** What became of it, as a sentence goes on: `was taken on`. */
  what: v.string(),
});
export type MonthChange = v.InferOutput<typeof monthChange>;

/** A second pair of eyes on a month. */
export const monthReview = v.strictObject({
  /** Whether the company asks for a second person by now. */
  twoPeople: v.boolean(),
  /** Oldest first. */
  steps: v.array(monthStep),
  /** Oldest first. */
  comments: v.array(monthComment),
  /** What changed since it was handed over; it is handed over again before it can be approved. */
  changed: v.array(monthChange),
  /** Who may approve it, by name. */
  approvers: v.array(v.string()),
  /** Why who asks may not approve it, as a sentence; null where they may. */
  barred: v.nullable(v.string()),
  /** What is named with the approval of who asks, and confirmed by it. */
  named: v.array(question),
});
export type MonthReview = v.InferOutput<typeof monthReview>;

/** A figure of a close added up over the instruments and over the books. */
export const closeCheck = v.strictObject({
  of: v.picklist(['interest-payable', 'expense', 'current-portion', 'funds']),
  /** What the instruments say. */
  instruments: minorUnits,
  /** What balances brought in on the first day of the books bring. */
  opening: minorUnits,
  /** What corrections, and what was taken on late, bring of closed months. */
  fromClosed: minorUnits,
  /** What the month leaves out as too small to be booked, less what of the month before it charges therefore. */
  leftOut: minorUnits,
  /** What the journal holds, drafts included. */
  journal: minorUnits,
  /** What the journal holds too much; zero when they agree. */
  difference: minorUnits,
});
export type CloseCheck = v.InferOutput<typeof closeCheck>;

/** One instrument in a period close. */
export const closeRow = v.strictObject({
  id: instrumentId,
  name: v.string(),
  version: v.number(),
  figures: figuresView,
  /** Interest expense of the month. */
  expense: minorUnits,
  /** Discount (or, negative, premium) amortized in the month. */
  amortized: minorUnits,
  /** Change of the current portion since the month before. */
  currentChange: minorUnits,
});
export type CloseRow = v.InferOutput<typeof closeRow>;

/** An accrual that a month does not book, because it is too small to matter. */
export const leftOutAccrual = v.strictObject({
  id: instrumentId,
  name: v.string(),
  /** What its entry would come to on each side. */
  amount: minorUnits,
});
export type LeftOutAccrual = v.InferOutput<typeof leftOutAccrual>;

/** What of an instrument's figures a month does not book; what it charges of the month before is less than nothing. */
export const notBookedFigures = v.strictObject({
  id: instrumentId,
  accrued: minorUnits,
  expense: minorUnits,
  amortized: minorUnits,
  carrying: minorUnits,
  deferredCosts: minorUnits,
});
export type NotBookedFigures = v.InferOutput<typeof notBookedFigures>;

/** What closing a month makes, before it is locked and after. */
export const closeView = v.strictObject({
  endsOn: dayText,
  state: v.picklist(periodStates),
  /** What becomes of the month's accruals. */
  accruals: v.picklist(accrualChoices),
  /** In the books at the month's end, with what locking will post; a credit balance is positive. */
  interestPayable: minorUnits,
  /** Each figure over the instruments and over the journal, with what locking will post. */
  checks: v.array(closeCheck),
  closedAt: v.nullable(v.string()),
  closedBy: v.nullable(v.string()),
  closedAs: v.nullable(v.picklist(closedWays)),
  /** What all of this comes to, SHA-256 in hexadecimal: an approval or a lock names it, and is refused when it is another by then. Null for a month that was closed before there were any. */
  digest: v.nullable(digest),
  review: monthReview,
  rows: v.array(closeRow),
  funds: v.array(closeFund),
  /** Instruments that cannot be worked out for the month; it is not locked before they can. */
  unworkable: v.array(unworkable),
  sums: v.array(entrySum),
  /** Entries dated in the month, the reversals it opened with among them. */
  entryCount: v.number(),
  /** Of those, the ones that locking the month will post. */
  draftCount: v.number(),
  /** What those come to on each side. */
  draftDebits: minorUnits,
  /** Reversals that open the next month. */
  reversalCount: v.number(),
  debits: minorUnits,
  credits: minorUnits,
  /** Payments due in the month and how many are recorded; null for a month that was closed before that was kept. */
  payments: v.nullable(v.strictObject({ due: v.number(), recorded: v.number() })),
  unrecorded: v.array(unrecordedPayment),
  /** Accruals that are not booked, the largest first: the next payment charges the whole interest. */
  leftOut: v.array(leftOutAccrual),
  /** By how much the books hold less than figures of the rows say; instruments with no such difference are not listed. */
  notBooked: v.array(notBookedFigures),
  /** By what they were left out, as it holds for the month. */
  materiality,
  /** Roles that entries of the month need and that have no account; it is not locked before they have. */
  missingAccounts: v.array(v.picklist(accountRoles)),
  /** Accounts of which it is known what the ledger held before the books, with what the instruments bring into them. */
  brought: v.array(broughtIn),
  /** What else somebody should see to before it is locked; once it is, the rates that were not fixed. */
  attention: v.array(attention),
});
export type CloseView = v.InferOutput<typeof closeView>;
