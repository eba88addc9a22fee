import type { CalendarDay } from '../calendar/calendar-day.ts';
import type { DayCountName } from '../calendar/day-counts/day-counts.ts';
import type { Frequency } from '../calendar/frequency.ts';
import type { Ratio } from '../money/ratio.ts';
import type { Ties } from '../money/round-ratio.ts';

/** How often a bond pays a coupon. */
export const couponFrequencies = ['half-year', 'year'] as const satisfies readonly Frequency[];
export type CouponFrequency = (typeof couponFrequencies)[number];

/** Everything a bond's schedule is computed from. Amounts in minor units of the currency. */
export interface BondTerms {
  readonly kind: 'bond';
  readonly currency: string;
  /** Decimals of the currency's minor unit. */
  readonly digits: number;
  readonly face: number;
  readonly issued: CalendarDay;
  readonly matures: CalendarDay;
  /** Annual coupon rate as a fraction of face. */
  readonly couponRate: Ratio;
  readonly every: CouponFrequency;
  readonly dayCount: DayCountName;
  readonly keepMonthEnd: boolean;
  /** Clean price in percent of face, as a fraction (0.9675 for 96.75), with the decimals it was stated to. */
  readonly price?: { readonly ofFace: Ratio; readonly decimals: number };
  /** Market yield, per year, compounded at the coupon frequency. */
  readonly marketYield?: Ratio;
  /** What the effective rate is: the stated yield, or the rate that the price implies. */
  readonly effectiveRate: 'yield' | 'from-price';
  readonly rounding: { readonly interest: 'cent' | 'unit'; readonly ties: Ties };
}
