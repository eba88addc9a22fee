import { addMonths, type CalendarDay } from '../../calendar/calendar-day.ts';
import { asKnownOn } from '../terms/as-known-on.ts';
import { unamortizedCosts } from '../costs/issue-costs.ts';
import type { InterestSegment } from '../interest/interest-segment.ts';
import {
  chargedBefore,
  chargedByRow,
  interestSegments,
  roundedInterest,
  rowSegments,
} from '../interest/loan-interest.ts';
import { chargesInterest, lastRowOn, type LoanSchedule } from '../schedule/loan-schedule.ts';
import { leftOfDue } from '../payment/left-of-dues.ts';
import { classificationOn } from '../../position/classification.ts';
import { unusedFeeOf } from '../../credit-line/unused-fee.ts';
import { roundRatio } from '../../money/round-ratio.ts';
import { safeNumber } from '../../money/rounded-product.ts';
import type { Position } from '../../position/position-figures.ts';

/** The segments of interest from the last charge to the end of a day. */
export function accruedSegments(schedule: LoanSchedule, on: CalendarDay): InterestSegment[] {
  const { terms, length, date, closing } = schedule;
  if (on <= terms.start) return [];
  const row = lastRowOn(date, length, on);
  if (row === length - 1 && closing[row] === 0) return [];
  if (chargedPast(schedule, row + 1, on) !== undefined) {
    // A payment that moved past the day fixes the interest of its period; from there on interest runs anew. How it is
    // made nobody knows yet.
    const known = asKnownOn(schedule, on);
    const charging = chargedPast(known, row + 1, on);
    if (charging !== undefined) {
      const since = chargedByRow(known, charging);
      return [...rowSegments(known, charging), ...interestSegments(known, known, since, on)];
    }
  }
  return interestSegments(schedule, schedule, chargedBefore(schedule, row + 1), on);
}

/** The first row from one on that charges interest, where it charges it to a day before another. */
function chargedPast(schedule: LoanSchedule, from: number, on: CalendarDay): number | undefined {
  let row = from;
  while (row < schedule.length && !chargesInterest(schedule, row)) row += 1;
  return row < schedule.length && (schedule.chargedTo[row] as number) < on ? row : undefined;
}

/** Interest that had accrued before a loan was taken on and is not yet charged with a payment. Minor units. */
export function broughtInAccrued(schedule: LoanSchedule, on: CalendarDay): number {
  const { terms, date, length } = schedule;
  if (!terms.takenOn || on < terms.start) return 0;
  const through = lastRowOn(date, length, on);
  for (let row = 0; row <= through; row += 1) if (chargesInterest(schedule, row)) return 0;
  return terms.takenOn.accruedInterest;
}

/** Interest accrued by a day and not yet charged, brought in included. Minor units. */
export function accruedInterest(schedule: LoanSchedule, on: CalendarDay): number {
  return roundedInterest(schedule.terms, accruedSegments(schedule, on)) + broughtInAccrued(schedule, on);
}

/** The fee on the unused part of a credit line since it was last charged. Minor units. */
export function accruedFee(schedule: LoanSchedule, on: CalendarDay): number {
  const { creditLine, rounding } = schedule.terms;
  if (!creditLine || creditLine.unusedFee.num === 0n) return 0;
  if (on >= (schedule.date[schedule.length - 1] ?? Infinity)) return 0;
  const exact = unusedFeeOf(creditLine.limit, creditLine.unusedFee, accruedSegments(schedule, on));
  return safeNumber(roundRatio(exact, rounding.ties));
}

/** Costs not yet amortized that lower what is carried; those of a credit line are an asset of their own. Minor units. */
export function costsCarried(schedule: LoanSchedule, on: CalendarDay): number {
  return schedule.terms.creditLine ? 0 : unamortizedCosts(schedule, on);
}

/** The position of a loan on a day. */
export function loanPosition(schedule: LoanSchedule, on: CalendarDay): Position {
  const { terms } = schedule;
  const row = lastRowOn(schedule.date, schedule.length, on);
  const begun = on >= terms.start;
  const outstanding = !begun ? 0 : row < 0 ? terms.amount : (schedule.closing[row] as number);
  const costs = costsCarried(schedule, on);
  // Costs not yet amortized lower what is carried; where all of it falls due, that is what is current.
  const carrying = outstanding - costs;
  // Costs above what is owed leave nothing of it to be current.
  const current = begun ? Math.max(0, Math.min(currentPortion(schedule, on, outstanding), carrying)) : 0;
  return {
    on,
    outstanding,
    accruedInterest: accruedInterest(schedule, on),
    accruedFee: accruedFee(schedule, on),
    unpaidInterest: row < 0 ? 0 : (schedule.unpaid[row] as number),
    deferredInterest: row < 0 ? 0 : (schedule.deferred[row] as number),
    unamortizedDiscount: 0,
    unamortizedPremium: 0,
    unamortizedIssueCosts: costs,
    deferredCosts: unamortizedCosts(schedule, on) - costs,
    overpaid: row < 0 ? 0 : (schedule.overpaid[row] as number),
    carrying,
    current,
    nonCurrent: carrying - current,
    next: nextPayment(asKnownOn(schedule, on), on),
  };
}

/**
 * Contractual principal due after a day and on or before the same day a year on, with principal in arrears,
 * never above what is outstanding. Extra principal and payments dated later are left out: planned extras are
 * not contractual (IAS 1.69(c); ASC 470-10-45). A presentation stated for the day takes its place.
 *
 * What falls due in the window is what its rows repay and the growth of the arrears over it: payments that first
 * make up for unpaid interest leave contractual principal in arrears, and that stays current.
 */
export function currentPortion(schedule: LoanSchedule, on: CalendarDay, outstanding: number): number {
  if (outstanding === 0) return 0;
  const stated = classificationOn(schedule.terms.events, on);
  if (stated) return stated.as === 'current' ? outstanding : 0;
  if (endsOnDemand(schedule)) return outstanding;
  return principalDue(asKnownOn(schedule, on), on, addMonths(on, 12, true), outstanding);
}

/** Whether a line runs without a maturity: no right to put its settlement off for a year (IAS 1.69(d), 1.76). */
export function endsOnDemand(schedule: LoanSchedule): boolean {
  return schedule.terms.creditLine !== undefined && schedule.terms.atEnd === 'leave';
}

/** Contractual principal due after a day to the end of another, with what is in arrears by then. Minor units. */
export function principalDue(
  contractual: LoanSchedule,
  on: CalendarDay,
  to: CalendarDay,
  outstanding: number,
): number {
  const row = lastRowOn(contractual.date, contractual.length, on);
  const until = lastRowOn(contractual.date, contractual.length, to);
  let due = until < 0 ? 0 : (contractual.principalInArrears[until] as number);
  for (let at = row + 1; at <= until; at += 1) due += contractual.principal[at] as number;
  // Where the last row falls in the window all that is left falls due then, renewed or not (IAS 1.73).
  return until === contractual.length - 1 ? outstanding : Math.min(outstanding, due);
}

/** The next payment that falls due, as it is agreed on the day: of one that was made in part, what is left. */
function nextPayment(schedule: LoanSchedule, on: CalendarDay): Position['next'] {
  const { date, length, n, due: dues, payment, receipts } = schedule;
  // What was paid ahead may stand on an earlier day than the one that it is due on.
  const from = receipts.byDue.size === 0 ? lastRowOn(date, length, on) + 1 : 0;
  for (let at = from; at < length; at += 1) {
    const due = dues[at] as number;
    if ((n[at] as number) === 0 || due <= on) continue;
    const paid = receipts.byDue.has(due);
    const left = paid ? leftOfDue(schedule, due) : (payment[at] as number);
    if (!paid || left > 0) return { due, payment: left };
  }
  return null;
}
