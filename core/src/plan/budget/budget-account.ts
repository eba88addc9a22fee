import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { paymentsPerYear } from '../../calendar/frequency.ts';
import { raised } from '../../loan/plan/least-level.ts';
import { paidSchedule } from '../../loan/plan/paid-schedule.ts';
import { rowsAfter, type PlannedRow } from '../../loan/plan/plan-loan.ts';
import type { Count, MinorUnits } from '../../units/units.ts';
import { byContract, type PlanMember } from '../plan.ts';
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
  const contract = raisable?.contract;
  const more = contract?.dues.some(({ amount }) => amount < least)
    ? paidSchedule(contract, raised(contract, least, contract.dues.length))
    : undefined;
  return {
    name,
    perYear: paymentsPerYear[schedule.terms.every],
    balance: unchanged.balance,
    unpaid: unchanged.unpaid,
    raisable,
    rows: more ? rowsAfter(more, on) : unchanged.rows,
  };
}

/** The last day on which something is paid; the plan's day where nothing is. */
export function lastPaid(rows: readonly PlannedRow[], on: CalendarDay): CalendarDay {
  return rows.findLast(({ paid }) => paid > 0)?.on ?? on;
}
