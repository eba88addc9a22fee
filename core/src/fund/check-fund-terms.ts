import { formatDay } from '../calendar/calendar-day.ts';
import { TermsFault } from '../faults/terms-fault.ts';
import { agreedDays, depositDays } from './fund-periods.ts';
import type { FundTerms } from './fund-terms.ts';

/** Refuses terms that no fund can be made of. Throws {@link TermsFault} naming the key at fault. */
export function checkFundTerms(terms: FundTerms): void {
  const { goal, deposits, opening, first } = terms;
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
    refuseOutOfTurn(terms);
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
  refuseOutOfTurn(terms);
}

/** Deposits follow one another as they are made, too. */
function refuseOutOfTurn(terms: FundTerms): void {
  const { made = [], opening } = terms;
  if (made.length === 0) return;
  const [agreed, days] = [agreedDays(terms), depositDays(terms)];
  made.forEach(({ due, on }, at) => {
    const place = agreed.indexOf(due);
    if (place < 0) return;
    // The first, with nothing before it, is made within a period of the day that it was agreed for.
    const period = (agreed[1] ?? due + 366) - due;
    const before = place === 0 ? (opening?.on ?? due - period - 1) : days[place - 1];
    const after = days[place + 1];
    if (before !== undefined && on <= before) {
      const message = `Made on ${formatDay(on)}, it is not after ${formatDay(before)}, which comes before it.`;
      throw new TermsFault(`events.${at}.on`, message);
    }
    if (after !== undefined && on >= after) {
      const message = `Made on ${formatDay(on)}, it is not before the deposit of ${formatDay(after)}; add it to that one, and this is 0.`;
      throw new TermsFault(`events.${at}.on`, message);
    }
  });
}
