import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { paymentsPerYear } from '../../calendar/frequency.ts';
import { paidSchedule } from '../../loan/plan/paid-schedule.ts';
import { rowsAfter, type PlannedRow } from '../../loan/plan/plan-loan.ts';
import type { Count, MinorUnits } from '../../units/units.ts';
import { byContract, type PlanMember } from '../plan.ts';
import type { DatedAmount } from '../present-value.ts';
import { raisableOf, type Raisable } from '../raisable.ts';

/** One instrument as a budget pays it. Minor units. */
export interface BudgetAccount {
  readonly name: string;
  readonly perYear: Count;
  /** Owed by the end of the plan's day. */
  readonly balance: MinorUnits;
  /** Interest charged and not paid by then. */
  readonly unpaid: MinorUnits;
  /** Nothing where it may not be repaid early. */
  readonly raisable: Raisable | undefined;
  /** What its contract asks, and its least payment, or what is paid on it once its turn has come. */
  rows: readonly PlannedRow[];
}

/** An instrument paid as its contract asks, each time at least as much as is stated. */
export function budgetAccount(member: PlanMember, on: CalendarDay): BudgetAccount {
  const { name, schedule, least } = member;
  const raisable = raisableOf(member, on);
  const unchanged = byContract(schedule, on);
  const otherwise =
    raisable?.contract.schedule.exact !== undefined ||
    raisable?.contract.dues.some(({ amount }) => amount < least);
  const made =
    raisable && otherwise
      ? paidSchedule(
          raisable.contract,
          duesOf(raisable).map(({ amount }) => amount),
        )
      : undefined;
  return {
    name,
    perYear: paymentsPerYear[schedule.terms.every],
    balance: unchanged.balance,
    unpaid: unchanged.unpaid,
    raisable,
    rows: made ? rowsAfter(made, on) : unchanged.rows,
  };
}

/**
 * What is asked for on each due, the least payment stated at least. A budget pays whole minor units: where nothing is
 * rounded, the last due has one more, of which what is owed is paid.
 */
export function duesOf({ contract, least }: Raisable): DatedAmount[] {
  const last = contract.schedule.exact ? contract.dues.length - 1 : -1;
  return contract.dues.map(({ on, amount }, at) => ({
    on,
    amount: Math.max(amount, least) + (at === last ? 1 : 0),
  }));
}

/** The last day on which something is paid; the plan's day where nothing is. */
export function lastPaid(rows: readonly PlannedRow[], on: CalendarDay): CalendarDay {
  return rows.findLast(({ paid }) => paid > 0)?.on ?? on;
}
