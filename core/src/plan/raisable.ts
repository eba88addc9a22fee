import type { CalendarDay } from '../calendar/calendar-day.ts';
import { paymentsPerYear } from '../calendar/frequency.ts';
import { debtKindOf } from '../kinds/kinds.ts';
import type { Contract } from '../loan/plan/contract.ts';
import { levelBy, planLoan } from '../loan/plan/plan-loan.ts';
import { followPayments, regularContract, type RegularContract } from '../loan/plan/regular-contract.ts';
import type { PlanMember } from './plan.ts';
import { paymentsOf, type DatedAmount } from './present-value.ts';
import type { Count, MinorUnits } from '../units/units.ts';

/** A member whose payments can be raised, made ready for many trials. */
export interface Raisable {
  readonly least: MinorUnits;
  readonly perYear: Count;
  readonly contract: Contract;
  readonly regular: RegularContract | undefined;
}

/** What clearing a member by a day comes to. Minor units. */
export interface RaisedMember {
  readonly interest: MinorUnits;
  /** The payment by how often a year it is made. */
  readonly yearlyCash: MinorUnits;
  readonly payments: readonly DatedAmount[];
}

/** A member whose payments can be raised; `undefined` where it may not be repaid early or nothing can be raised. */
export function raisableOf({ schedule, least, prepay }: PlanMember, on: CalendarDay): Raisable | undefined {
  const contract = prepay ? debtKindOf(schedule).contract(schedule, on) : undefined;
  if (!contract) return undefined;
  const perYear = paymentsPerYear[schedule.terms.every];
  return { least, perYear, contract, regular: regularContract(contract) };
}

/** Clears a member by a day; `undefined` where that is out of reach. */
export function raisedBy(
  { least, perYear, contract, regular }: Raisable,
  clearBy: CalendarDay,
): RaisedMember | undefined {
  if (!regular) {
    const planned = planLoan(contract, clearBy, least);
    if ('earliest' in planned) return undefined;
    const { interest, payment, rows } = planned;
    return { interest, yearlyCash: payment * perYear, payments: paymentsOf(rows) };
  }
  const found = levelBy(contract, regular, clearBy, least);
  if ('earliest' in found) return undefined;
  const level = Math.max(found.level, least);
  const { interest, payments } = followPayments(regular, level, found.through);
  return { interest, yearlyCash: Math.max(level, contract.dues[0]?.amount ?? 0) * perYear, payments };
}
