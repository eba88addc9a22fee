import type { CalendarDay } from '../calendar-day.ts';
import type { Fraction, InterestPeriod } from '../fraction.ts';

/** A rule that turns the days from one date (counted) to another (not counted) into a share of a year. */
export interface DayCount {
  /** What a reader is told about the rule, in a few words. */
  readonly title: string;
  /** The days the rule counts. */
  days(from: CalendarDay, to: CalendarDay, period?: InterestPeriod): number;
  /** The share of a year, exact; `period` is the interest period the two dates lie in. */
  years(from: CalendarDay, to: CalendarDay, period: InterestPeriod): Fraction;
}
