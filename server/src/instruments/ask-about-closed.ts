import {
  formatAmount,
  formatDay,
  interestExpense,
  position,
  type CalendarDay,
  type MinorUnits,
  type Schedule,
} from '@coffer/core';
import type { Question } from '@coffer/contract';
import { workedOut, type StoredVersion } from './known-instruments.ts';

/** The months that are closed. */
export interface ClosedMonths {
  readonly from: CalendarDay;
  readonly to: CalendarDay;
}

/** Interest expense of the closed months as it was known and as a change makes it. Minor units. */
export interface ExpenseOfClosed {
  readonly before: MinorUnits;
  readonly after: MinorUnits;
}

/** What a change makes of the interest expense of the closed months. */
export function expenseOfClosed(
  before: Schedule,
  after: Schedule,
  { from, to }: ClosedMonths,
): ExpenseOfClosed {
  return {
    before: interestExpense(before, from - 1, to),
    after: interestExpense(after, from - 1, to),
  };
}

/**
 * Asks about a change that reaches into closed months: they stay as they were reported, and the open month books what
 * they should have held (IAS 8.42 leaves immaterial errors to the period in which they are found).
 */
export function askAboutClosed(
  name: string,
  after: Schedule,
  version: StoredVersion,
  closed: ClosedMonths,
): Question[] {
  if (closed.to < closed.from) return [];
  // A version that cannot be worked out has nothing to be compared with.
  const worked = workedOut(version, ({ schedule }) => schedule);
  if (!('made' in worked)) return [];
  const before = worked.made;
  const money = (minor: MinorUnits): string => formatAmount(minor, after.terms.digits);
  const expense = expenseOfClosed(before, after, closed);
  const [was, is] = [before, after].map((schedule) => position(schedule, closed.to).carrying) as [
    number,
    number,
  ];
  const changed = (what: string, from: MinorUnits, to: MinorUnits): string[] =>
    from === to ? [] : [`${what} from ${money(from)} to ${money(to)}, ${money(to - from)}`];
  const parts = [
    ...changed('interest expense', expense.before, expense.after),
    ...changed(`the carrying amount on ${formatDay(closed.to)}`, was, is),
  ];
  if (parts.length === 0) return [];
  const message =
    `${name}: months that are closed change, ${parts.join('; ')}. They stay as they were reported; the open month books ` +
    'the difference, as a correction of each of them.';
  return [{ code: 'closed-months-change', key: '', message }];
}
