import {
  type BudgetOutcome,
  type BudgetUse,
  formatAmount,
  formatDay,
  isOutcome,
  type MinorUnits,
  type NoCommonDay,
  type PlanMember,
} from '@coffer/core';
import type { Fault } from '../faults/fault.ts';
import type { PublishedBudget, PublishedNoCommonDay } from './published-plan.ts';

/** What a budget comes to, in its published form. */
export function budgetJson(
  use: BudgetUse,
  made: BudgetOutcome | NoCommonDay,
  members: readonly PlanMember[],
): PublishedBudget | PublishedNoCommonDay {
  const digits = members[0]?.schedule.terms.digits ?? 2;
  const money = (minor: MinorUnits): string => formatAmount(minor, digits);
  if (!isOutcome(made)) return { use, commonDay: null, least: money(made.least) };
  const monthOf = (day: number): string => formatDay(day).slice(0, 7);
  const clears = (day: number | undefined): string | null => (day === undefined ? null : formatDay(day));
  const left = (minor: MinorUnits): { left?: string } => (minor === 0 ? {} : { left: money(minor) });
  const unordered = unorderedIn(use, members);
  return {
    use,
    clears: clears(made.clears),
    ...left(made.left),
    interest: money(made.interest),
    paid: money(made.paid),
    ...(use === 'same-day' && { unspent: money(made.unspent) }),
    ...(made.outOfReach.length > 0 && { outOfReach: made.outOfReach }),
    ...(unordered.length > 0 && { unordered }),
    ...(made.short && {
      short: {
        month: monthOf(made.short.month),
        missing: money(made.short.missing),
        covers: money(made.short.covers),
      },
    }),
    loans: made.members.map((member) => ({
      name: member.name,
      clears: clears(member.clears),
      ...left(member.left),
    })),
    months: made.months.map(({ month, paid, cash }) => ({
      month: monthOf(month),
      paid: money(paid),
      cash: money(cash),
    })),
  };
}

/** What an order of one's own leaves out of what may be repaid early: it comes last. */
function unorderedIn(use: BudgetUse, members: readonly PlanMember[]): string[] {
  if (typeof use === 'string') return [];
  return members.flatMap(({ name, prepay }) => (prepay && !use.includes(name) ? [name] : []));
}

/** Why a budget is refused: no common day is within it, or a month asks for more than is there. */
export function budgetFaults(
  monthly: string,
  made: PublishedBudget | PublishedNoCommonDay | undefined,
): Fault[] {
  const key = 'budget.monthly';
  if (!made) return [];
  if ('commonDay' in made) {
    const message = `No common day is within ${monthly} a month; the least that has one is ${made.least}.`;
    return [{ key, message }];
  }
  if (!made.short) return [];
  const { month, missing, covers } = made.short;
  const message = `In ${month} more is asked for than is there by then: ${missing} is missing. ${covers} a month covers all that the agreements ask for.`;
  return [{ key, message }];
}
