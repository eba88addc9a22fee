import type { CalendarDay } from '../calendar/calendar-day.ts';
import { debtKindOf, kindOf } from '../kinds/kinds.ts';
import type { AnySchedule, AnyTerms, Instrument, Schedule } from '../kinds/schedules.ts';
import type { Proof } from '../proofs/proof.ts';
import type { Count, MinorUnits } from '../units/units.ts';

/**
 * The schedule of an instrument: a pure function of its terms and events. Throws as the builders do.
 *
 * @example
 * buildSchedule(bond.terms).rows.length // 11
 */
export function buildSchedule(terms: Instrument): Schedule;
/** The schedule of any kind: a pure function of its terms and events. Throws as the builders do. */
export function buildSchedule(terms: AnyTerms): AnySchedule;
export function buildSchedule(terms: AnyTerms): AnySchedule {
  return kindOf(terms).build(terms);
}

/**
 * The proofs of a schedule.
 *
 * @example
 * proofsOf(loan).every(({ holds }) => holds) // true
 */
export function proofsOf(schedule: AnySchedule): Proof[] {
  return kindOf(schedule).proofs(schedule);
}

/**
 * The day an instrument begins: the start of a loan, the issue of a bond.
 *
 * @example
 * formatDay(firstDay(loan)) // '2025-01-01'
 */
export function firstDay(schedule: AnySchedule): CalendarDay {
  return kindOf(schedule).firstDay(schedule);
}

/**
 * The day the last amount of the schedule is paid.
 *
 * @example
 * formatDay(lastDay(loan)) // '2026-01-01'
 */
export function lastDay(schedule: AnySchedule): CalendarDay {
  return kindOf(schedule).lastDay(schedule);
}

/**
 * Borrowed at the beginning, or the face of a bond; minor units.
 *
 * @example
 * principalOf(loan.terms) // 100_000
 */
export function principalOf(terms: Instrument): MinorUnits {
  return debtKindOf(terms).principal(terms);
}

/**
 * How many rows a schedule has.
 *
 * @example
 * rowCount(loan) // 12
 */
export function rowCount(schedule: AnySchedule): Count {
  return kindOf(schedule).rowCount(schedule);
}
