import type { CalendarDay } from '../../calendar/calendar-day.ts';
import type { DayCountName } from '../../calendar/day-counts/day-counts.ts';
import type { Frequency } from '../../calendar/frequency.ts';
import type { Ratio } from '../../money/ratio.ts';
import type { Ties } from '../../money/round-ratio.ts';
import type { Classification } from '../../position/classification.ts';
import type { Count, MinorUnits } from '../../units/units.ts';

/** How often a bond pays a coupon, or the yield of one without coupons is compounded. */
export const couponFrequencies = [
  'month',
  'quarter',
  'half-year',
  'year',
] as const satisfies readonly Frequency[];
export type CouponFrequency = (typeof couponFrequencies)[number];

/** How a discount, a premium and issue costs are spread over a bond's life. */
export const amortizationMethods = ['effective', 'straight-line'] as const;
export type AmortizationMethod = (typeof amortizationMethods)[number];

/** Face that falls due on a day. Minor units. */
export interface FaceDue {
  readonly on: CalendarDay;
  readonly face: MinorUnits;
}

/** Face that falls due before maturity by agreement, on a coupon date, at face. */
export interface Instalment extends FaceDue {
  /** Its place among the redemptions of the document, for faults. */
  readonly at: number;
}

/** Face redeemed before it is due, at a price that nobody knew at issue. */
export interface EarlyRedemption {
  readonly on: CalendarDay;
  /** Minor units. */
  readonly face: MinorUnits;
  /** Clean, per 1 of face. */
  readonly price: Ratio;
  /** The issue whose proceeds pay for it, where one does. */
  readonly refundedBy?: string;
  /** Its place among the redemptions of the document, for faults. */
  readonly at: number;
}

/** From a day on the issuer may redeem at a price, clean, per 1 of face. */
export interface Call {
  readonly from: CalendarDay;
  readonly price: Ratio;
}

/** Everything a bond's schedule is computed from. Amounts in minor units of the currency. */
export interface BondTerms {
  readonly kind: 'bond';
  readonly currency: string;
  /** Decimals of the currency's minor unit. */
  readonly digits: Count;
  readonly face: MinorUnits;
  readonly issued: CalendarDay;
  /** Coupons run from this day: the issue, or an earlier day when coupon that has accrued is sold with the bond. */
  readonly dated: CalendarDay;
  readonly matures: CalendarDay;
  /** Annual coupon rate as a fraction of face; zero where no coupon is paid. */
  readonly couponRate: Ratio;
  /** No coupon is paid; `every` is how the yield is compounded, and the first period may be broken. */
  readonly zeroCoupon: boolean;
  readonly every: CouponFrequency;
  readonly dayCount: DayCountName;
  readonly keepMonthEnd: boolean;
  /** The first coupon date, stated for an odd first period. */
  readonly firstCoupon?: CalendarDay;
  /** The coupon date before maturity, stated for an odd last period. */
  readonly lastCoupon?: CalendarDay;
  /** Clean price per 1 of face (0.9675 for 96.75), with the decimals that its percentage was stated to. */
  readonly price?: { readonly ofFace: Ratio; readonly decimals: Count };
  /** Market yield, per year, compounded at the coupon frequency. */
  readonly marketYield?: Ratio;
  /** The decimals that its percentage was stated to. */
  readonly yieldDecimals?: Count;
  /** What the effective rate is: the stated yield, or the rate that the price implies. */
  readonly effectiveRate: 'yield' | 'from-price';
  readonly method: AmortizationMethod;
  readonly issueCosts?: { readonly amount: MinorUnits; readonly method: AmortizationMethod };
  /** In order of date; what they leave of the face falls due at maturity. */
  readonly instalments: readonly Instalment[];
  /** In order of date. */
  readonly redemptions: readonly EarlyRedemption[];
  readonly calls: readonly Call[];
  /** What the issuer received: cash, or goods that the note was issued for. */
  readonly issuedFor: 'cash' | 'goods';
  readonly events: readonly Classification[];
  readonly rounding: { readonly interest: 'cent' | 'unit' | 'none'; readonly ties: Ties };
}
