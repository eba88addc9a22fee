import { billsThrough, formatDay, monthEnd, openLineEnds, ratio, type LoanTerms } from '@coffer/core';
import type { AmountReader } from '../../document/amount-reader.ts';
import type { CreditLineDocument } from './credit-line-document.ts';
import { loanEventsOf } from '../loan/loan-events-of.ts';
import { businessDaysOf, issueCostsOf, loanRoundingOf } from '../loan/loan-terms-of.ts';
import { dayOf, rateOf, rateTermsOf } from '../../document/rate-terms-of.ts';

/**
 * The terms of a validated credit line: a loan that begins with nothing drawn, pays its interest at each bill and what
 * is drawn at maturity. Without a maturity, bills are drawn up for a year after the last event and the balance is left.
 */
export function creditLineTermsOf(document: CreditLineDocument, read: AmountReader): LoanTerms {
  const start = dayOf(document.start);
  const events = loanEventsOf(document.events ?? [], start, read);
  const matures = document.matures === undefined ? undefined : dayOf(document.matures);
  if (matures !== undefined && matures <= start) {
    read.fault('matures', `The line matures on ${document.matures}, which is not after its start.`);
  }
  document.events?.forEach((event, at) => {
    const moves = event.type === 'draw' || event.type === 'repayment';
    if (!moves || matures === undefined || dayOf(event.on) <= matures) return;
    read.fault(
      `events.${at}.on`,
      `This is after the line matures, ${formatDay(matures)}; move the maturity, or remove it.`,
    );
  });
  if (document.rate.annual === '?') {
    read.fault('rate.annual', 'The rate of a credit line is agreed, not solved; give it.');
  }
  const first = firstBill(document, start, read);
  const days = events.flatMap((event) => ('on' in event ? [event.on] : []));
  const { count, regular } = billsThrough(first, matures ?? openLineEnds(start, days));
  return {
    kind: 'credit-line',
    currency: document.currency,
    digits: read.digits,
    amount: 0,
    start,
    ...rateTermsOf(document.rate, start, read),
    every: 'month',
    first,
    due: 'end',
    keepMonthEnd: true,
    phases: [{ type: 'interest-only', count }],
    atEnd: matures === undefined ? 'leave' : 'pay',
    rounding: loanRoundingOf(document.rounding),
    events,
    creditLine: {
      limit: read.positive('limit', document.limit),
      unusedFee: document.unusedFee === undefined ? ratio(0n) : rateOf(document.unusedFee),
    },
    ...(matures !== undefined && !regular && count > 1 && { last: matures }),
    ...(document.businessDays && { businessDays: businessDaysOf(document.businessDays) }),
    ...(document.issueCosts && { issueCosts: issueCostsOf(document.issueCosts, 'straight-line', read) }),
  };
}

function firstBill(document: CreditLineDocument, start: number, read: AmountReader): number {
  const matures = document.matures === undefined ? undefined : dayOf(document.matures);
  let first = monthEnd(start + 1);
  if (document.firstBill !== undefined) {
    first = dayOf(document.firstBill);
    if (first <= start)
      read.fault('firstBill', `The first bill must come after the start, ${formatDay(start)}.`);
  }
  return matures !== undefined && matures > start ? Math.min(first, matures) : first;
}
