import { statedAmount, type Fact } from '../../words/fact.ts';
import { showDay } from '../../words/show.ts';
import { costFacts, movingFacts, rateFacts } from '../loan/rate-facts.ts';
import type { CreditLineDocument } from './credit-line-document.ts';

/** The terms of a credit line as a list for people. */
export function creditLineFacts(document: CreditLineDocument): Fact[] {
  return [
    ['Limit', `${statedAmount(document.limit)} ${document.currency}`],
    ['Start', showDay(document.start)],
    ['Matures', document.matures ? showDay(document.matures) : 'open'],
    ...rateFacts(document),
    [
      'Billed',
      document.firstBill
        ? `monthly, first on ${showDay(document.firstBill)}`
        : 'on the last day of each month',
    ],
    ...(document.unusedFee ? [['Fee on the unused part', document.unusedFee] as const] : []),
    ...movingFacts(document.businessDays),
    ...costFacts(document),
  ];
}
