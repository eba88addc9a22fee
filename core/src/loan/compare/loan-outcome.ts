import { minorOf } from '../../money/rounding.ts';
import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { asksOneAmount, type LoanSchedule } from '../schedule/loan-schedule.ts';
import { paymentsMade, totalOf } from '../schedule/totals.ts';
import type { MinorUnits } from '../../units/units.ts';

/** What a loan comes to over its life. Amounts in minor units. */
export interface LoanOutcome {
  /** The payment that was set last, as it is asked from then on; `undefined` where none is set as an amount. */
  readonly payment: MinorUnits | undefined;
  /** Numbered payments by which something is paid. */
  readonly payments: number;
  readonly interest: MinorUnits;
  /** Payments and extra principal together. */
  readonly paid: MinorUnits;
  readonly last: CalendarDay;
  /** Balance after the last row: zero unless the loan is left for renewal. */
  readonly left: MinorUnits;
}

/**
 * Sums up a schedule.
 *
 * @example
 * loanOutcome(loan).interest // 6_619
 */
export function loanOutcome(schedule: LoanSchedule): LoanOutcome {
  const { length, date, closing, settings, terms } = schedule;
  const set = settings.findLast(asksOneAmount);
  return {
    payment: set && minorOf(terms, set.amount),
    payments: paymentsMade(schedule),
    interest: totalOf(schedule, 'interest'),
    paid: totalOf(schedule, 'payment') + totalOf(schedule, 'extra'),
    last: date[length - 1] as number,
    left: closing[length - 1] as number,
  };
}

/**
 * The balance owed after each day on which it changed, in order: days and minor units.
 *
 * @example
 * balanceCurve(loan)[1].balance // 92_115
 */
export function balanceCurve(
  schedule: LoanSchedule,
): { readonly on: CalendarDay; readonly balance: MinorUnits }[] {
  const { terms, length, date, closing } = schedule;
  const points = [{ on: terms.start, balance: schedule.opening[0] ?? terms.amount }];
  for (let row = 0; row < length; row += 1) {
    const point = { on: date[row] as number, balance: closing[row] as number };
    if (points.at(-1)?.on === point.on) points.pop();
    points.push(point);
  }
  return points;
}
