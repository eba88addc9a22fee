import type { CalendarDay } from './calendar-day.ts';

/** An exact share of a year in small whole numbers. */
export interface Fraction {
  readonly num: number;
  readonly den: number;
}

/** The stretch of time that one payment's or coupon's interest covers. */
export interface InterestPeriod {
  readonly from: CalendarDay;
  readonly to: CalendarDay;
  /** What the whole period is worth in years when every regular period is worth the same. */
  readonly evenYears: Fraction;
}
