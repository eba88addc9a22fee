import type { CalendarDay } from '../calendar/calendar-day.ts';
import type { Frequency } from '../calendar/frequency.ts';
import type { FundSchedule } from '../fund/fund-schedule.ts';
import { debtKindOf } from '../kinds/kinds.ts';
import type { Schedule } from '../kinds/schedules.ts';
import {
  planLoan,
  plannedOf,
  rowsAfter,
  type OutOfReach,
  type PlannedLoan,
  type PlannedRow,
} from '../loan/plan/plan-loan.ts';
import { planFund, type FundRule } from './plan-fund.ts';
import type { MinorUnits } from '../units/units.ts';

/** Balance and unpaid interest once nothing more is paid, minor units. */
export function leftAfter({
  rows,
  balance,
  unpaid,
}: Pick<PlannedLoan, 'rows' | 'balance' | 'unpaid'>): MinorUnits {
  const last = rows.at(-1);
  return last ? last.closing + last.unpaid : balance + unpaid;
}

/** An instrument in a plan. */
export interface PlanMember {
  readonly name: string;
  readonly schedule: Schedule;
  /** The least that is paid each time, minor units. */
  readonly least: MinorUnits;
  /** Whether it may be repaid early; where not, a fund provides for it. */
  readonly prepay: boolean;
}

/** A member planned: cleared by the day, or provided for by a fund. */
export interface PlannedMember extends PlannedLoan {
  readonly name: string;
  /** How often it is paid. */
  readonly every: Frequency;
  /** What holds on the wished day what is owed then. */
  readonly fund?: FundSchedule;
}

/** A member that no plan reaches by the day. */
export interface Unreached extends OutOfReach {
  readonly name: string;
}

/**
 * Whether a member could be planned.
 *
 * @example
 * isPlanned(planFor(members, day('2025-06-30'), day('2025-09-30'), fundRule)[0])
 * // true
 */
export function isPlanned(member: PlannedMember | Unreached): member is PlannedMember {
  return 'payment' in member;
}

/**
 * Plans every member to be cleared, or provided for, by a day. `on` is the day that the plan starts after.
 *
 * @example
 * planFor(members, day('2025-06-30'), day('2025-09-30'), fundRule).length // 1
 */
export function planFor(
  members: readonly PlanMember[],
  on: CalendarDay,
  clearBy: CalendarDay,
  fund: FundRule,
): (PlannedMember | Unreached)[] {
  return members.map(({ name, schedule, least, prepay }) => {
    const { every } = schedule.terms;
    const contract = prepay ? debtKindOf(schedule).contract(schedule, on) : undefined;
    if (contract) return { name, every, ...planLoan(contract, clearBy, least) };
    const unchanged = byContract(schedule, on);
    const goal = debtKindOf(schedule).owed(schedule, clearBy);
    if (goal === 0) return { name, every, ...unchanged };
    const provided = planFund(fund, schedule.terms, on, clearBy, goal);
    if ('earliest' in provided) return { name, ...provided };
    return { name, every, ...unchanged, bound: 'fund', fund: provided };
  });
}

/**
 * An instrument that is paid as its contract asks, to its own end.
 *
 * @example
 * byContract(loan, day('2025-06-30')).payment // 8_885
 */
export function byContract(schedule: Schedule, on: CalendarDay): PlannedLoan {
  const kind = debtKindOf(schedule);
  const contract = kind.contract(schedule, on);
  const balance = kind.owed(schedule, on);
  if (contract) {
    const [first] = contract.dues;
    return plannedOf(
      rowsAfter(contract.schedule, on),
      { ...contract, payment: first?.amount ?? 0 },
      'contract',
    );
  }
  let owed = balance;
  const rows = kind
    .flows(schedule)
    .flatMap(({ on: day, drawn, added, interest, principal }): PlannedRow[] => {
      if (day <= on) return [];
      owed += drawn + added - principal;
      return [{ on: day, paid: interest + principal, interest, principal, drawn, closing: owed, unpaid: 0 }];
    });
  const payment = rows.find(({ paid }) => paid > 0)?.paid ?? 0;
  return plannedOf(rows, { on, balance, unpaid: 0, payment }, 'contract');
}
