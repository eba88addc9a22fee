import type Decimal from 'decimal.js';
import type { CalendarDay } from '../calendar/calendar-day.ts';
import { multiplyRatios, ratio, type Ratio } from '../money/ratio.ts';
import { roundRatio } from '../money/round-ratio.ts';
import { safeNumber } from '../money/rounded-product.ts';
import { TermsFault } from '../terms-fault.ts';
import { decimalOf, periodGrowth, priceFromYield } from './bond-price.ts';
import type { BondTerms } from './bond-terms.ts';
import { couponPeriods, couponsPerYear, type CouponPeriod } from './coupon-periods.ts';
import { yieldFromPrice } from './yield-from-price.ts';

/** One row: the issue (`n` 0, nothing but a closing) or a coupon. Carrying amounts, in minor units. */
export interface BondRow {
  readonly n: number;
  readonly due: CalendarDay;
  readonly opening: number;
  readonly coupon: number;
  readonly expense: number;
  /** Added to the carrying amount: positive for a discount, negative for a premium. */
  readonly amortization: number;
  /** Discount left to amortize; a premium is negative. */
  readonly unamortized: number;
  readonly closing: number;
  /** Expense as the effective rate gives it, unrounded; in the last row it differs from `expense`. */
  readonly exactExpense: Ratio;
}

/** A bond's schedule by the effective interest method. */
export interface BondSchedule {
  readonly kind: 'bond';
  readonly terms: BondTerms;
  readonly periods: readonly CouponPeriod[];
  readonly rows: readonly BondRow[];
  /** Cash received on issue, minor units. */
  readonly proceeds: number;
  /** Clean price per 1 of face, from the terms or from the yield. */
  readonly price: Decimal;
  /** Per year, compounded at the coupon frequency. */
  readonly effectiveRate: Decimal;
  /** What the price at the effective rate misses the price paid by, per 1 of face. */
  readonly residual: Decimal;
}

/** How many minor units amounts are rounded to. */
export function bondStep(terms: BondTerms): number {
  return terms.rounding.interest === 'unit' ? 10 ** terms.digits : 1;
}

/** Rounds an exact amount in minor units once, as the terms say. */
export function roundForBond(terms: BondTerms, exact: Ratio): number {
  const step = BigInt(bondStep(terms));
  return safeNumber(roundRatio(ratio(exact.num, exact.den * step), terms.rounding.ties) * step);
}

/** A coupon before rounding: face × rate × years. */
export function exactCoupon(terms: BondTerms, period: CouponPeriod): Ratio {
  const yearly = multiplyRatios(ratio(BigInt(terms.face)), terms.couponRate);
  return multiplyRatios(yearly, ratio(BigInt(period.years.num), BigInt(period.years.den)));
}

function exactDecimal(value: Decimal): Ratio {
  const places = Math.max(0, value.decimalPlaces());
  return ratio(BigInt(value.times(`1e${places}`).toFixed(0)), 10n ** BigInt(places));
}

/** The rate of one period: exact y/m for a stated yield over a whole period, else (1 + y/m)^(m·t) − 1. */
function periodRate(terms: BondTerms, period: CouponPeriod, effectiveRate: Decimal): Ratio {
  const perYear = couponsPerYear(terms);
  const whole = period.years.num * perYear === period.years.den;
  if (whole && terms.effectiveRate === 'yield' && terms.marketYield) {
    return ratio(terms.marketYield.num, terms.marketYield.den * BigInt(perYear));
  }
  return exactDecimal(periodGrowth(effectiveRate, perYear, period.years).minus(1));
}

/**
 * A bond's schedule: coupon, interest expense and amortization by the effective interest method
 * (ASC 835-30-35-2; IFRS 9 paragraph B5.4.1). Expense is opening carrying amount × the period's effective
 * rate, rounded once; the last row amortizes what is left, so the carrying amount lands on face.
 * Throws {@link TermsFault} for terms that contradict each other.
 */
export function buildBondSchedule(terms: BondTerms): BondSchedule {
  const periods = couponPeriods(terms);
  const { price, effectiveRate, residual } = priceAndRate(terms, periods);
  const proceeds = roundForBond(terms, multiplyRatios(ratio(BigInt(terms.face)), exactDecimal(price)));
  const issue = { n: 0, due: terms.issued, opening: proceeds, coupon: 0, expense: 0, amortization: 0 };
  const rows: BondRow[] = [
    { ...issue, unamortized: terms.face - proceeds, closing: proceeds, exactExpense: ratio(0n) },
  ];
  let carrying = proceeds;
  periods.forEach((period, at) => {
    const last = at === periods.length - 1;
    const rate = periodRate(terms, period, effectiveRate);
    const exactExpense = multiplyRatios(ratio(BigInt(carrying)), rate);
    const coupon = roundForBond(terms, exactCoupon(terms, period));
    const amortization = last ? terms.face - carrying : roundForBond(terms, exactExpense) - coupon;
    const closing = carrying + amortization;
    rows.push({
      n: at + 1,
      due: period.to,
      opening: carrying,
      coupon,
      expense: coupon + amortization,
      amortization,
      unamortized: terms.face - closing,
      closing,
      exactExpense,
    });
    carrying = closing;
  });
  return { kind: 'bond', terms, periods, rows, proceeds, price, effectiveRate, residual };
}

function priceAndRate(
  terms: BondTerms,
  periods: readonly CouponPeriod[],
): { price: Decimal; effectiveRate: Decimal; residual: Decimal } {
  const { marketYield, issued } = terms;
  if (!terms.price && !marketYield) {
    throw new TermsFault('price', 'Give the price of the bond, or its yield; the other is worked out.');
  }
  const atYield = marketYield && priceFromYield(terms, periods, decimalOf(marketYield), issued).clean;
  const price = terms.price ? decimalOf(terms.price.ofFace) : (atYield as Decimal);
  if (terms.effectiveRate === 'yield' && marketYield && atYield) {
    return { price, effectiveRate: decimalOf(marketYield), residual: atYield.minus(price) };
  }
  const { yearly, residual } = yieldFromPrice(terms, periods, price, issued);
  return { price, effectiveRate: yearly, residual };
}
