import { bondProofs } from '../bond/bond-proofs.ts';
import type { BondSchedule } from '../bond/bond-schedule.ts';
import type { BondTerms } from '../bond/bond-terms.ts';
import { buildBondSchedule } from '../bond/bond-walk.ts';
import type { CalendarDay } from '../calendar/calendar-day.ts';
import { buildLoanSchedule } from '../loan/build-loan-schedule.ts';
import { loanProofs } from '../loan/loan-proofs.ts';
import type { LoanSchedule } from '../loan/loan-schedule.ts';
import type { LoanTerms } from '../loan/loan-terms.ts';
import type { Proof } from '../proofs/proof.ts';

/** The terms and events of any instrument. */
export type Instrument = LoanTerms | BondTerms;

/** The schedule of any instrument. */
export type Schedule = LoanSchedule | BondSchedule;

/** The schedule of an instrument: a pure function of its terms and events. Throws as the builders do. */
export function buildSchedule(terms: Instrument): Schedule {
  return terms.kind === 'loan' ? buildLoanSchedule(terms) : buildBondSchedule(terms);
}

/** The proofs of a schedule. */
export function proofsOf(schedule: Schedule): Proof[] {
  return schedule.kind === 'loan' ? loanProofs(schedule) : bondProofs(schedule);
}

/** The day an instrument begins: the start of a loan, the issue of a bond. */
export function firstDay(schedule: Schedule): CalendarDay {
  return schedule.kind === 'loan' ? schedule.terms.start : schedule.terms.issued;
}

/** The day the last amount of the schedule is paid. */
export function lastDay(schedule: Schedule): CalendarDay {
  if (schedule.kind === 'bond') return schedule.rows.at(-1)?.due ?? schedule.terms.matures;
  return schedule.date[schedule.length - 1] as number;
}
