import { formatDay } from '../calendar/calendar-day.ts';
import { TermsFault } from '../faults/terms-fault.ts';
import type { FundTerms } from './fund-terms.ts';

/** Refuses terms that no fund can be made of. Throws {@link TermsFault} naming the key at fault. */
export function checkFundTerms({ goal, deposits, opening, first }: FundTerms): void {
  if (opening && opening.on >= first) {
    throw new TermsFault(
      'opening.on',
      `The opening balance must stand before the first deposit, ${formatDay(first)}.`,
    );
  }
  if (goal !== undefined && (opening?.amount ?? 0) >= goal) {
    throw new TermsFault('opening.amount', 'The fund holds its goal already.');
  }
  if (deposits.type === 'level') {
    if (deposits.amount === undefined && deposits.count === undefined) {
      throw new TermsFault(
        'deposit',
        'Give the deposit or the count; the other is worked out from the goal.',
      );
    }
    if (goal === undefined && (deposits.amount === undefined || deposits.count === undefined)) {
      throw new TermsFault('goal', 'To work out the goal, give both the deposit and the count.');
    }
    return;
  }
  if (deposits.list.length === 0) throw new TermsFault('deposits', 'List at least one deposit.');
  let before: number | undefined;
  deposits.list.forEach(({ on }, at) => {
    if (before !== undefined && on <= before) {
      throw new TermsFault(
        `deposits.${at}.on`,
        `Listed deposits follow one another; ${formatDay(on)} is not after ${formatDay(before)}.`,
      );
    }
    before = on;
  });
}
