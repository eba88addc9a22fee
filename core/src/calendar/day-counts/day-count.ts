import type { CalendarDay } from '../calendar-day.ts';
import type { Fraction } from '../fraction.ts';
import type { InterestPeriod } from '../interest-period.ts';

/** A rule that turns the days from one date (counted) to another (not counted) into a share of a year. */
export interface DayCount {
  /** What a reader is told about the rule, in a few words. */
  readonly title: string;
  /** Of how many days a year is, where the share of a year depends on nothing but the actual days. */
  readonly yearOf?: number;
  /** The days the rule counts. */
  days(from: CalendarDay, to: CalendarDay, period?: InterestPeriod): number;
  /** The share of a year, exact; `period` is the interest period the two dates lie in. */
  years(from: CalendarDay, to: CalendarDay, period: InterestPeriod): Fraction;
}

/** How a rule of 30-day months counts from one date to another. */
export type ThirtyDayMonths = (from: CalendarDay, to: CalendarDay, period?: InterestPeriod) => number;

/**
 * A rule of 30-day months. Days of a piece of a period are the difference of two counts from the period's start, so
 * that pieces always add up to the period, a 31st among them or not (2006 ISDA Definitions, section 4.16, counts whole
 * calculation periods; how pieces are counted is common practice).
 */
export function thirtyDayMonths(title: string, count: ThirtyDayMonths): DayCount {
  const days: ThirtyDayMonths = (from, to, period) => {
    if (!period || from <= period.from) return count(from, to, period);
    return count(period.from, to, period) - count(period.from, from, period);
  };
  return { title, days, years: (from, to, period) => ({ num: days(from, to, period), den: 360 }) };
}
