import Decimal from 'decimal.js';
import type { CalendarDay } from '../calendar/calendar-day.ts';
import { dayCounts } from '../calendar/day-counts/day-counts.ts';
import type { Fraction } from '../calendar/fraction.ts';
import type { Ratio } from '../money/ratio.ts';
import { couponsPerYear, type CouponCycle, type CouponPeriod } from './coupon-periods.ts';

/** Decimals with 60 digits, for prices and yields. */
export const PreciseDecimal = Decimal.clone({ precision: 60, rounding: Decimal.ROUND_HALF_UP });

/** An exact ratio as a 60-digit decimal. */
export function decimalOf(value: Ratio): Decimal {
  return new PreciseDecimal(value.num.toString()).div(value.den.toString());
}

/** What a price is made of, per 1 of face. */
export interface PriceParts {
  readonly dirty: Decimal;
  readonly accrued: Decimal;
  readonly clean: Decimal;
}

/** Growth over `years` at a yield compounded `perYear` times: (1 + y/m)^(m·t); exact powers where m·t is 1. */
export function periodGrowth(yearly: Decimal, perYear: number, years: Fraction): Decimal {
  const base = yearly.div(perYear).plus(1);
  if (years.num * perYear === years.den) return base;
  return base.pow(new PreciseDecimal(years.num).times(perYear).div(years.den));
}

/**
 * Price from yield on a day: the present value of the remaining coupons and the face, compounded at the coupon
 * frequency, times counted by the bond's day count and a broken first period compounded too (street
 * convention: ICMA Rule Book, rule 803; Fabozzi, Bond Markets, chapter 2).
 *
 * @param yearly yield per year as a fraction
 */
export function priceFromYield(
  terms: CouponCycle & { readonly couponRate: Ratio },
  periods: readonly CouponPeriod[],
  yearly: Decimal,
  on: CalendarDay,
): PriceParts {
  const rate = decimalOf(terms.couponRate);
  const perYear = couponsPerYear(terms);
  const years = dayCounts[terms.dayCount].years;
  const remaining = periods.filter((period) => period.to > on);
  let discount = new PreciseDecimal(1);
  let dirty = new PreciseDecimal(0);
  let accrued = new PreciseDecimal(0);
  const growths = new Map<number, Decimal>();
  const growthOver = (ahead: Fraction): Decimal => {
    const key = ahead.num / ahead.den;
    const known = growths.get(key) ?? periodGrowth(yearly, perYear, ahead);
    growths.set(key, known);
    return known;
  };
  remaining.forEach((period, at) => {
    const broken = at === 0 && on > period.from;
    const ahead = broken ? years(on, period.to, period) : period.years;
    discount = discount.div(growthOver(ahead));
    dirty = dirty.plus(rate.times(period.years.num).div(period.years.den).times(discount));
    if (broken) {
      const passed = years(period.from, on, period);
      accrued = rate.times(passed.num).div(passed.den);
    }
  });
  dirty = dirty.plus(discount);
  return { dirty, accrued, clean: dirty.minus(accrued) };
}
