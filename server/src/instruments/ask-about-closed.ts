import { correctionsOf, formatAmount, type Schedule } from '@coffer/core';
import { accountName, type Question } from '@coffer/contract';
import type { ClosedMonths } from '../periods/period-store.ts';

/**
 * Asks about a change that reaches into closed months: they stay as they were reported, and the open month books what
 * they should have held (IAS 8.42 leaves immaterial errors to the period in which they are found).
 */
export function askAboutClosed(
  name: string,
  before: Schedule,
  after: Schedule,
  { from, to }: ClosedMonths,
): Question[] {
  if (to < from) return [];
  const lines = correctionsOf(before, after, to, from);
  const side = (debit: boolean): string[] =>
    lines
      .filter(([, amount]) => amount > 0 === debit)
      .map(([role, amount]) => {
        const money = formatAmount(Math.abs(amount), after.terms.digits);
        return `${debit ? 'debit' : 'credit'} ${accountName(role)} ${money}`;
      });
  const booked = [...side(true), ...side(false)];
  if (booked.length === 0) return [];
  const message =
    `${name}: months that are closed come out otherwise. They stay as they were reported; the open month books the ` +
    `difference: ${booked.join(', ')}.`;
  return [{ code: 'closed-months-change', key: '', message }];
}
