import type { CalendarDay } from '../calendar/calendar-day.ts';
import { debtKindOf, kindOf } from '../kinds/kinds.ts';
import type { AnySchedule, AnyTerms, Instrument, Schedule } from '../kinds/schedules.ts';
import type { Proof } from '../proofs/proof.ts';

/** The schedule of an instrument: a pure function of its terms and events. Throws as the builders do. */
export function buildSchedule(terms: Instrument): Schedule;
/** The schedule of any kind: a pure function of its terms and events. Throws as the builders do. */
export function buildSchedule(terms: AnyTerms): AnySchedule;
export function buildSchedule(terms: AnyTerms): AnySchedule {
  return kindOf(terms).build(terms);
}

/** The proofs of a schedule. */
export function proofsOf(schedule: AnySchedule): Proof[] {
  return kindOf(schedule).proofs(schedule);
}

/** The day an instrument begins: the start of a loan, the issue of a bond. */
export function firstDay(schedule: AnySchedule): CalendarDay {
  return kindOf(schedule).firstDay(schedule);
}

/** The day the last amount of the schedule is paid. */
export function lastDay(schedule: AnySchedule): CalendarDay {
  return kindOf(schedule).lastDay(schedule);
}

/** Borrowed at the beginning, or the face of a bond; minor units. */
export function principalOf(terms: Instrument): number {
  return debtKindOf(terms).principal(terms);
}

/** How many rows a schedule has. */
export function rowCount(schedule: AnySchedule): number {
  return kindOf(schedule).rowCount(schedule);
}
