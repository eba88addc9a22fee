import { addMonths, type CalendarDay } from '../calendar/calendar-day.ts';
import { buildLoanSchedule } from '../loan/build-loan-schedule.ts';
import { interestOf, interestSegments, type InterestSegment } from '../loan/loan-interest.ts';
import { lastRowOn, type LoanSchedule } from '../loan/loan-schedule.ts';
import type { Position } from './position-figures.ts';

/** The segments of interest from the last charge to the end of a day. */
export function accruedSegments(schedule: LoanSchedule, on: CalendarDay): InterestSegment[] {
  const { terms } = schedule;
  if (on <= terms.start) return [];
  let charged = lastRowOn(schedule.date, schedule.length, on);
  while (charged >= 0 && (schedule.n[charged] as number) === 0) charged -= 1;
  const from = charged < 0 ? terms.start : (schedule.date[charged] as number);
  const balance = charged < 0 ? terms.amount : (schedule.closing[charged] as number);
  return interestSegments(terms, schedule, charged + 1, balance, from, on);
}

/** The position of a loan on a day. */
export function loanPosition(schedule: LoanSchedule, on: CalendarDay): Position {
  const { terms } = schedule;
  const row = lastRowOn(schedule.date, schedule.length, on);
  const begun = on >= terms.start;
  const outstanding = !begun ? 0 : row < 0 ? terms.amount : (schedule.closing[row] as number);
  const accruedInterest = begun ? interestOf(terms, accruedSegments(schedule, on)).rounded : 0;
  const current = begun ? currentPortion(schedule, on, outstanding) : 0;
  return {
    on,
    outstanding,
    accruedInterest,
    unpaidInterest: row < 0 ? 0 : (schedule.unpaid[row] as number),
    unamortizedDiscount: 0,
    unamortizedPremium: 0,
    unamortizedIssueCosts: 0,
    carrying: outstanding,
    current,
    nonCurrent: outstanding - current,
    next: nextPayment(schedule, row),
  };
}

/**
 * Contractual principal due after a day and on or before the same day a year on, with principal in arrears,
 * never above what is outstanding. Extra principal and payments dated later are left out: planned extras are
 * not contractual (IAS 1.69(c); ASC 470-10-45).
 *
 * What falls due in the window is what its rows repay and the growth of the arrears over it: payments that first
 * make up for unpaid interest leave contractual principal in arrears, and that stays current.
 */
export function currentPortion(schedule: LoanSchedule, on: CalendarDay, outstanding: number): number {
  if (outstanding === 0) return 0;
  const contractual = asKnownOn(schedule, on);
  const row = lastRowOn(contractual.date, contractual.length, on);
  const until = lastRowOn(contractual.date, contractual.length, addMonths(on, 12, true));
  let due = until < 0 ? 0 : (contractual.principalInArrears[until] as number);
  for (let at = row + 1; at <= until; at += 1) due += contractual.principal[at] as number;
  return row === contractual.length - 1 ? outstanding : Math.min(outstanding, due);
}

/** The schedule as its contract stands on a day: without voluntary extras and payments recorded later. */
export function asKnownOn(schedule: LoanSchedule, on: CalendarDay): LoanSchedule {
  const { terms } = schedule;
  const extrasOnce = terms.extrasOnce.filter((extra) => extra.on <= on);
  const recorded = terms.recorded.filter((payment) => payment.on <= on);
  const extrasEachPayment = terms.extrasEachPayment
    .filter((each) => each.from <= on)
    .map((each) => ({ ...each, to: Math.min(each.to, on) }));
  const same =
    extrasOnce.length === terms.extrasOnce.length &&
    recorded.length === terms.recorded.length &&
    terms.extrasEachPayment.every((each) => each.to <= on);
  if (same) return schedule;
  return buildLoanSchedule({ ...terms, extrasOnce, recorded, extrasEachPayment });
}

function nextPayment(schedule: LoanSchedule, row: number): Position['next'] {
  for (let at = row + 1; at < schedule.length; at += 1) {
    if ((schedule.n[at] as number) > 0) {
      return { due: schedule.due[at] as number, payment: schedule.payment[at] as number };
    }
  }
  return null;
}
