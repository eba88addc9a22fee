import type { CalendarDay } from '../calendar/calendar-day.ts';
import { dayCounts } from '../calendar/day-counts/day-counts.ts';
import { evenYears } from '../calendar/even-years.ts';
import type { Fraction, InterestPeriod } from '../calendar/fraction.ts';
import { cycleDate, cycleIndexOnOrAfter, type DateCycle } from '../calendar/payment-dates.ts';
import { addRatios, multiplyRatios, ratio, type Ratio } from '../money/ratio.ts';
import { roundRatio } from '../money/round-ratio.ts';
import { safeNumber } from '../money/rounded-product.ts';
import { simpleGrowth } from '../rates/annual-rate.ts';
import type { LoanColumns, LoanSchedule } from './loan-schedule.ts';
import type { LoanTerms } from './loan-terms.ts';

/** A stretch of days over which balance, rate and period stay the same. */
export interface InterestSegment {
  readonly from: CalendarDay;
  readonly to: CalendarDay;
  /** Minor units. */
  readonly balance: number;
  readonly annualRate: Ratio;
  /** Days as the day count counts them. */
  readonly days: number;
  readonly years: Fraction;
  /** balance × rate × years in minor units, exact. */
  readonly interest: Ratio;
}

/** The payment dates of a loan, index 0 being the first. */
export function paymentCycle(terms: LoanTerms): DateCycle {
  return { anchor: terms.first, every: terms.every, keepMonthEnd: terms.keepMonthEnd };
}

/** The interest period that ends with the payment of a given index (0 is the first). */
export function interestPeriod(terms: LoanTerms, index: number): InterestPeriod {
  const cycle = paymentCycle(terms);
  const to = cycleDate(cycle, index);
  const from = index === 0 ? terms.start : cycleDate(cycle, index - 1);
  return { from, to, evenYears: evenYears(cycle, from, to) };
}

/** How many minor units interest is rounded to. */
export function interestStep(terms: LoanTerms): number {
  return terms.rounding.interest === 'unit' ? 10 ** terms.digits : 1;
}

/**
 * The segments from one day to another, given the balances from the rows in between: cut wherever the balance
 * changes and wherever a payment falls due, since a share of a year is counted within its own period.
 */
export function interestSegments(
  terms: LoanTerms,
  rows: LoanColumns | LoanSchedule,
  firstRow: number,
  openingBalance: number,
  from: CalendarDay,
  to: CalendarDay,
): InterestSegment[] {
  const rule = dayCounts[terms.dayCount];
  const segments: InterestSegment[] = [];
  let balance = openingBalance;
  let row = firstRow;
  let at = from;
  if (at >= to) return segments;
  let index = Math.max(0, cycleIndexOnOrAfter(paymentCycle(terms), at + 1));
  let period = interestPeriod(terms, index);
  while (at < to) {
    while (row < rows.length && (rows.date[row] as number) <= at) {
      balance = rows.closing[row] as number;
      row += 1;
    }
    const change = row < rows.length ? (rows.date[row] as number) : to;
    const until = Math.min(to, period.to, change);
    const years = rule.years(at, until, period);
    const interest = multiplyRatios(ratio(BigInt(balance)), simpleGrowth(terms.annualRate, years));
    const days = rule.days(at, until);
    segments.push({ from: at, to: until, balance, annualRate: terms.annualRate, days, years, interest });
    at = until;
    if (at >= period.to) period = interestPeriod(terms, ++index);
  }
  return segments;
}

/** Unrounded interest of segments, and the same rounded once as the loan's terms say. Minor units. */
export function interestOf(
  terms: LoanTerms,
  segments: readonly InterestSegment[],
): { exact: Ratio; rounded: number } {
  const step = BigInt(interestStep(terms));
  const exact = segments.reduce((sum, segment) => addRatios(sum, segment.interest), ratio(0n));
  const inSteps = roundRatio(ratio(exact.num, exact.den * step), terms.rounding.ties);
  return { exact, rounded: safeNumber(inSteps * step) };
}

/** The day that the interest of a numbered row runs from: the numbered row before it, or the start. */
export function chargedFrom(
  schedule: LoanSchedule,
  row: number,
): { day: CalendarDay; balance: number; nextRow: number } {
  for (let before = row - 1; before >= 0; before -= 1) {
    if ((schedule.n[before] as number) > 0) {
      return {
        day: schedule.date[before] as number,
        balance: schedule.closing[before] as number,
        nextRow: before + 1,
      };
    }
  }
  return { day: schedule.terms.start, balance: schedule.terms.amount, nextRow: 0 };
}

/** The segments that a numbered row's interest was computed from. */
export function rowSegments(schedule: LoanSchedule, row: number): InterestSegment[] {
  const since = chargedFrom(schedule, row);
  const until = schedule.date[row] as number;
  return interestSegments(schedule.terms, schedule, since.nextRow, since.balance, since.day, until);
}
