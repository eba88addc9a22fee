import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { paymentsPerYear } from '../../calendar/frequency.ts';
import type { PlannedRow } from '../../loan/plan/plan-loan.ts';
import type { MinorUnits } from '../../units/units.ts';
import { byContract, leftAfter, type PlanMember } from '../plan.ts';
import { paymentsOf, type DatedAmount } from '../present-value.ts';
import { budgetAccount, lastPaid, type BudgetAccount } from './budget-account.ts';
import {
  cashMonths,
  leastBudget,
  paidByMonth,
  shortageIn,
  type CashMonth,
  type Shortage,
} from './cash-account.ts';
import { inOrder, inTurn, type Turns } from './in-turn.ts';
import { toOneDay } from './one-day.ts';

/** How a budget is used: for one common day, or one instrument after another. */
export type BudgetUse = 'same-day' | Turns;

/** An instrument that a budget pays. Minor units. */
export interface BudgetLoan {
  readonly name: string;
  /** The day that it is cleared on; nothing where something is left. */
  readonly clears: CalendarDay | undefined;
  /** Balance and unpaid interest once nothing more is paid on it. */
  readonly left: MinorUnits;
  /** Owed by the end of the plan's day, interest unpaid by then apart. */
  readonly balance: MinorUnits;
  readonly unpaid: MinorUnits;
  /** What is paid on it. */
  readonly rows: readonly PlannedRow[];
}

/** What a monthly budget comes to. Amounts in minor units. */
export interface BudgetOutcome {
  /** The day that everything is cleared on; nothing where something is left. */
  readonly clears: CalendarDay | undefined;
  readonly interest: MinorUnits;
  readonly paid: MinorUnits;
  readonly left: MinorUnits;
  /** Up to the last month in which something is paid. */
  readonly months: readonly CashMonth[];
  readonly members: readonly BudgetLoan[];
  /** What one common day leaves of the budget each month; nothing where loans take turns. */
  readonly unspent: MinorUnits;
  /** What no payment clears by a common day; nothing where loans take turns. */
  readonly outOfReach: readonly string[];
  /** The first month that asks for more than is there, and a budget by which none does. */
  readonly short: (Shortage & { readonly covers: MinorUnits }) | undefined;
}

/** That no common day is within a budget. Minor units. */
export interface NoCommonDay {
  /** The least budget by which there is one. */
  readonly least: MinorUnits;
}

/**
 * What the contracts ask in a year, minor units: each first payment by how often a year it is made.
 *
 * @example
 * contractualYearly(members, day('2025-06-30')) // 106_620
 */
export function contractualYearly(members: readonly PlanMember[], on: CalendarDay): MinorUnits {
  return members.reduce(
    (sum, { schedule }) => sum + byContract(schedule, on).payment * paymentsPerYear[schedule.terms.every],
    0,
  );
}

/**
 * What a monthly budget comes to after a day. What may not be repaid early is paid as its contract asks, and nothing is
 * paid on an agreement after its last due date: what it leaves is told.
 *
 * @example
 * formatDay(budgetOutcome(members, day('2025-06-30'), 20_000, 'highest-rate').clears) // '2025-10-01'
 */
export function budgetOutcome(
  members: readonly PlanMember[],
  on: CalendarDay,
  monthly: MinorUnits,
  use: BudgetUse,
): BudgetOutcome | NoCommonDay {
  const accounts = members.map((member) => budgetAccount(member, on));
  if (use === 'same-day') {
    const day = toOneDay(accounts, on, monthly);
    if (!day.reached) return { least: day.least };
    return { ...outcomeOf(accounts, on, monthly, 0), unspent: day.unspent, outOfReach: day.outOfReach };
  }
  const covers = leastBudget(paidByMonth(allPayments(accounts), on));
  inTurn(accounts, inOrder(accounts, on, use), on, monthly);
  return outcomeOf(accounts, on, monthly, covers);
}

/**
 * Whether a budget comes to something.
 *
 * @example
 * isOutcome(budgetOutcome(members, day('2025-06-30'), 1, 'same-day')) // false
 */
export function isOutcome(made: BudgetOutcome | NoCommonDay): made is BudgetOutcome {
  return 'months' in made;
}

const allPayments = (accounts: readonly BudgetAccount[]): DatedAmount[] =>
  accounts.flatMap(({ rows }) => paymentsOf(rows));

function outcomeOf(
  accounts: readonly BudgetAccount[],
  on: CalendarDay,
  monthly: MinorUnits,
  covers: MinorUnits,
): BudgetOutcome {
  const members = accounts.map(({ name, rows, balance, unpaid }): BudgetLoan => {
    const left = leftAfter({ rows, balance, unpaid });
    return { name, clears: left === 0 ? lastPaid(rows, on) : undefined, left, balance, unpaid, rows };
  });
  const rows = accounts.flatMap((account) => account.rows);
  const sum = (of: (row: PlannedRow) => MinorUnits): MinorUnits =>
    rows.reduce((total, row) => total + of(row), 0);
  const left = members.reduce((total, member) => total + member.left, 0);
  const months = cashMonths(allPayments(accounts), on, monthly);
  const short = shortageIn(months);
  return {
    clears: left === 0 ? Math.max(on, ...members.map(({ clears }) => clears ?? on)) : undefined,
    interest: sum(({ interest }) => interest),
    paid: sum(({ paid }) => paid),
    left,
    months,
    members,
    unspent: 0,
    outOfReach: [],
    short: short && { ...short, covers },
  };
}
