import { type BudgetOutcome, type BudgetUse, formatAmount, formatDay, type MinorUnits } from '@coffer/core';
import type { PublishedBudget } from './published-plan.ts';

/** What a budget comes to, in its published form. */
export function budgetJson(use: BudgetUse, outcome: BudgetOutcome, digits: number): PublishedBudget {
  const money = (minor: MinorUnits): string => formatAmount(minor, digits);
  return {
    use,
    clears: formatDay(outcome.clears),
    interest: money(outcome.interest),
    ...(use === 'same-day' && { unspent: money(outcome.unspent) }),
    loans: outcome.members.map(({ name, clears }) => ({ name, clears: formatDay(clears) })),
    months: outcome.months.map(({ month, paid }) => ({
      month: formatDay(month).slice(0, 7),
      paid: money(paid),
    })),
  };
}
