import { monthEnd, type CalendarDay } from '../../calendar/calendar-day.ts';
import type { PlannedRow } from '../../loan/plan/plan-loan.ts';
import { byContract, type PlanMember } from '../plan.ts';
import type { BudgetOutcome } from './budget.ts';
import type { MinorUnits } from '../../units/units.ts';

/** Where the cash of one month goes, member by member. Minor units. */
export interface BudgetMonth {
  /** Its last day. */
  readonly month: CalendarDay;
  readonly members: readonly {
    /** What the contract asks, as far as it is paid. */
    readonly asked: MinorUnits;
    /** What is paid beyond it. */
    readonly extra: MinorUnits;
  }[];
}

const paidIn = (rows: readonly PlannedRow[], month: CalendarDay): number =>
  rows.reduce((sum, row) => sum + (monthEnd(row.on) === month ? row.paid : 0), 0);

/**
 * Where each month's cash goes, from the month after a day to the last in which something is paid.
 *
 * @example
 * budgetMonths(members, day('2025-06-30'), outcome).length // 4
 */
export function budgetMonths(
  members: readonly PlanMember[],
  on: CalendarDay,
  outcome: BudgetOutcome,
): BudgetMonth[] {
  const asked = members.map(({ schedule }) => byContract(schedule, on).rows);
  return outcome.months.map(({ month }) => ({
    month,
    members: outcome.members.map(({ rows }, at) => {
      const paid = paidIn(rows, month);
      const contractual = Math.min(paid, paidIn(asked[at] ?? [], month));
      return { asked: contractual, extra: paid - contractual };
    }),
  }));
}
