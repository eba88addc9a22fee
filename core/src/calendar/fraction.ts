import type { CalendarDay } from './calendar-day.ts';

/** An exact share of a year in small whole numbers. */
export interface Fraction {
  readonly num: number;
  readonly den: number;
}

/** The stretch of time that one payment's or coupon's interest covers, and the regular dates around it. */
export interface InterestPeriod {
  readonly from: CalendarDay;
  readonly to: CalendarDay;
  /** What the whole period is worth in years when every regular period is worth the same. */
  readonly evenYears: Fraction;
  /** Regular periods a year. */
  readonly perYear: number;
  /**
   * Where regular periods begin and end, from the one that `from` falls in to the one that ends with `to`: just
   * `from` and `to` when the period is itself regular.
   */
  readonly boundaries: readonly CalendarDay[];
  /** The day the agreement ends, where a rule treats it apart. */
  readonly termination?: CalendarDay;
}
