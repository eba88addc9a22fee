import * as v from 'valibot';
import { accrualChoices } from '@coffer/core';
import { dayText } from '../document/scalars.ts';
import { closeView, commentText, digest, monthComment, trailHead } from './close-views.ts';
import { confirm } from './confirm.ts';
import { differencesView } from './difference-views.ts';
import { endpoint } from './endpoint.ts';
import { instrumentId } from './ids.ts';
import { preparing, proposing, reviewing } from './permissions.ts';
import { entryView } from './views.ts';

const ofPeriod = v.strictObject({ endsOn: dayText });

/** What closing a month did. */
const monthClosed = v.strictObject({
  endsOn: dayText,
  entries: v.number(),
  reversals: v.number(),
  opens: dayText,
  /** Where the audit trail stands with this. */
  trail: trailHead,
});
export type MonthClosed = v.InferOutput<typeof monthClosed>;

/** The close of a month, by one person or by two. */
export const closeEndpoints = {
  instrumentEntries: endpoint(
    'get',
    '/api/periods/:endsOn/close/:id',
    'The entries that closing a month makes for one instrument',
    'member',
    {
      params: v.strictObject({ endsOn: dayText, id: instrumentId }),
      answer: v.strictObject({ entries: v.array(entryView) }),
    },
  ),
  close: endpoint('get', '/api/periods/:endsOn/close', 'What closing a month makes', 'member', {
    params: ofPeriod,
    long: true,
    answer: closeView,
  }),
  differences: endpoint(
    'get',
    '/api/periods/:endsOn/differences',
    'What differs from what the month before reported, each figure with the reasons worked out',
    'member',
    { params: ofPeriod, long: true, answer: differencesView },
  ),
  chooseAccruals: endpoint(
    'put',
    '/api/periods/:endsOn/accruals',
    'Choose what becomes of the accruals of the open month alone; others are as the settings have it',
    preparing,
    {
      params: ofPeriod,
      body: v.strictObject({ accruals: v.picklist(accrualChoices) }),
      answer: v.strictObject({ endsOn: dayText, accruals: v.picklist(accrualChoices) }),
    },
  ),
  lock: endpoint(
    'post',
    '/api/periods/:endsOn/lock',
    'Post the entries of the open month and close it for good, where the company asks for no second person',
    preparing,
    {
      params: ofPeriod,
      body: v.strictObject({ digest: v.optional(digest), confirm }),
      long: true,
      answer: monthClosed,
      idempotent: true,
    },
  ),
  handOver: endpoint(
    'post',
    '/api/periods/:endsOn/hand-over',
    'Hand the open month over to who reviews it; handed over again, what was changed since counts',
    preparing,
    {
      params: ofPeriod,
      body: v.strictObject({ digest, confirm }),
      long: true,
      answer: v.strictObject({ endsOn: dayText, state: v.literal('prepared') }),
      idempotent: true,
    },
  ),
  returnMonth: endpoint(
    'post',
    '/api/periods/:endsOn/return',
    'Return a month that was handed over, with what is to be seen to',
    reviewing,
    {
      params: ofPeriod,
      body: v.strictObject({ instrumentId: v.optional(instrumentId), comment: commentText }),
      answer: v.strictObject({ endsOn: dayText, state: v.literal('open') }),
      idempotent: true,
    },
  ),
  approve: endpoint(
    'post',
    '/api/periods/:endsOn/approve',
    'Approve a month as it was handed over: its entries are posted and it is closed for good',
    reviewing,
    {
      params: ofPeriod,
      body: v.strictObject({ digest, confirm }),
      long: true,
      answer: monthClosed,
      idempotent: true,
    },
  ),
  commentMonth: endpoint(
    'post',
    '/api/periods/:endsOn/comments',
    'Say something about a month that is not closed, or about an instrument in it',
    proposing,
    {
      params: ofPeriod,
      body: v.strictObject({ instrumentId: v.optional(instrumentId), text: commentText }),
      answer: v.strictObject({ comments: v.array(monthComment) }),
      idempotent: true,
    },
  ),
} as const;
