import type { CalendarDay } from '../../calendar/calendar-day.ts';
import type { Fraction } from '../../calendar/fraction.ts';
import { ratio, type Ratio } from '../../money/ratio.ts';
import { roundRatio } from '../../money/round-ratio.ts';
import { formatPercent } from '../../rates/annual-rate.ts';
import type { Carried, PeriodAmounts } from './bond-amortization.ts';
import type { BondRates } from '../price/bond-rates.ts';
import type { BondTerms, FaceDue } from '../terms/bond-terms.ts';
import { yearsWithin, type CouponPeriod } from '../terms/coupon-periods.ts';
import type { Count, MinorUnits } from '../../units/units.ts';

/** What a row is: the issue, a coupon, or a redemption before maturity. */
export type BondRowKind = 'issue' | 'coupon' | 'redemption';

/** Amounts that the books carry for a row: whole minor units that sum to what is carried, whatever is rounded. */
export interface BookedAmounts {
  readonly coupon: MinorUnits;
  /** Coupon sold with the bond that the row settles. */
  readonly received: MinorUnits;
  readonly discount: MinorUnits;
  readonly costs: MinorUnits;
  readonly discountWrittenOff: MinorUnits;
  readonly costsWrittenOff: MinorUnits;
}

/** One row of a bond's schedule. Amounts in minor units, rounded for showing where nothing is rounded. */
export interface BondRow {
  readonly kind: BondRowKind;
  /** Number of the coupon; 0 for the issue and for a redemption. */
  readonly n: Count;
  readonly due: CalendarDay;
  /** Face outstanding before and after the row; what is due at maturity stays in it. */
  readonly faceBefore: MinorUnits;
  readonly faceAfter: MinorUnits;
  /** Carrying amounts. */
  readonly opening: MinorUnits;
  readonly coupon: MinorUnits;
  /** Coupon sold with the bond that this coupon settles: paid, but no expense. */
  readonly received: MinorUnits;
  readonly expense: MinorUnits;
  /** Added to the carrying amount, positive for a discount and issue costs, negative for a premium. */
  readonly amortization: MinorUnits;
  /** The part of the amortization that is issue costs. */
  readonly costsAmortized: MinorUnits;
  /** Carrying amount that leaves with face redeemed or an instalment paid. */
  readonly retired: MinorUnits;
  /** Paid for face redeemed early or due by instalment; without coupon. */
  readonly paid: MinorUnits;
  /** Carrying amount retired less what was paid for it. */
  readonly gain: MinorUnits;
  /** Discount left to amortize (a premium is negative) and issue costs: face less carrying amount. */
  readonly unamortized: MinorUnits;
  readonly unamortizedCosts: MinorUnits;
  readonly closing: MinorUnits;
  /** Expense before rounding; in the last row it differs from `expense` by what that row takes. */
  readonly exactExpense: Ratio;
  /** Place among the early redemptions of the terms, for a redemption. */
  readonly redemption?: Count;
  readonly booked: BookedAmounts;
  /** The same in grains, where nothing is rounded. */
  readonly exact: ExactBondRow;
}

/** A row's figures in grains. */
export interface ExactBondRow {
  readonly faceAfter: bigint;
  readonly opening: bigint;
  readonly coupon: bigint;
  readonly received: bigint;
  readonly expense: bigint;
  readonly amortization: bigint;
  readonly retired: bigint;
  readonly unamortized: bigint;
  readonly closing: bigint;
}

/** What accrues from one day on within a coupon period; another begins with each period and each redemption. */
export interface AccrualBasis {
  readonly period: CouponPeriod;
  /** Number of the coupon that ends the period. */
  readonly n: Count;
  readonly from: CalendarDay;
  /** At the period's beginning, of what is outstanding from `from` on. */
  readonly carried: Carried;
  /** Of the whole period. */
  readonly amounts: PeriodAmounts;
  /** Face that falls due by agreement from here on, maturity included. */
  readonly dues: readonly FaceDue[];
}

/** A bond's schedule. */
export interface BondSchedule {
  readonly kind: 'bond';
  readonly terms: BondTerms;
  /** Coupon periods that end after the issue; the first may have begun before it. */
  readonly periods: readonly CouponPeriod[];
  readonly rows: readonly BondRow[];
  readonly bases: readonly AccrualBasis[];
  readonly rates: BondRates;
  /** Received on issue with coupon sold, before issue costs; minor units. */
  readonly proceeds: MinorUnits;
  /** The part of the proceeds that is coupon accrued since the dated date or the last coupon. */
  readonly accruedReceived: MinorUnits;
}

/**
 * The last coupon row, which takes what rounding left; `undefined` where all was redeemed before.
 *
 * @example
 * lastCouponRow(bond).closing // 10_000_000
 */
export function lastCouponRow({ rows }: BondSchedule): BondRow | undefined {
  const last = rows.at(-1);
  return last?.kind === 'coupon' ? last : undefined;
}

/**
 * Discount received less than face on issue, before costs; a premium is negative. Minor units.
 *
 * @example
 * discountAtIssue(bond) // 772_200
 */
export function discountAtIssue({ terms, proceeds, accruedReceived }: BondSchedule): MinorUnits {
  return terms.face - (proceeds - accruedReceived);
}

/**
 * The discount or premium at issue as a share of the face, rounded to two decimals, such as `3.25%`.
 *
 * @example
 * discountShare(bond) // '7.72%'
 */
export function discountShare(schedule: BondSchedule): string {
  const parts = ratio(BigInt(Math.abs(discountAtIssue(schedule))) * 10_000n, BigInt(schedule.terms.face));
  return formatPercent(ratio(roundRatio(parts, 'away-from-zero'), 10_000n));
}

/** Interest expense that the books carry for a row, minor units. */
export function bookedExpense({ coupon, received, discount, costs }: BookedAmounts): MinorUnits {
  return coupon - received + discount + costs;
}

/** The share of a coupon period that has passed on a day, by the bond's own day count; 0 to 1. */
export function shareOfPeriod(terms: BondTerms, period: CouponPeriod, on: CalendarDay): Fraction {
  const passed = yearsWithin(terms, period, period.from, on);
  return { num: passed.num * period.years.den, den: passed.den * period.years.num };
}

/** The share of what a period amortizes that has passed on a day: counted from the issue where that came later. */
export function amortizedShare(terms: BondTerms, period: CouponPeriod, on: CalendarDay): Ratio {
  const begins = Math.max(period.from, terms.issued);
  if (on <= begins) return ratio(0n);
  const passed = yearsWithin(terms, period, begins, on);
  const all = yearsWithin(terms, period, begins, period.to);
  // A day count may give a stretch at a month's end no days at all.
  if (all.num === 0) return ratio(BigInt(on - begins), BigInt(period.to - begins));
  return ratio(BigInt(passed.num) * BigInt(all.den), BigInt(passed.den) * BigInt(all.num));
}
