import type Decimal from 'decimal.js';
import type { CalendarDay } from '../calendar/calendar-day.ts';
import type { Ratio } from '../money/ratio.ts';
import { TermsFault } from '../terms-fault.ts';
import { PreciseDecimal, priceFromYield } from './bond-price.ts';
import type { CouponCycle, CouponPeriod } from './coupon-periods.ts';

/** A yield found by iteration, and what its price misses the given price by, per 1 of face. */
export interface SolvedYield {
  readonly yearly: Decimal;
  readonly residual: Decimal;
}

const tolerance = new PreciseDecimal('1e-40');

/**
 * Yield from dirty price on a day, per year, compounded at the coupon frequency: the inverse of
 * {@link priceFromYield}, by secant steps kept inside a bracket. Price falls as yield rises, so there is one.
 * Throws {@link TermsFault} when no yield from −90 % to 10,000 % gives the price.
 *
 * @param dirty price with accrued coupon, per 1 of face
 */
export function yieldFromPrice(
  terms: CouponCycle & { readonly couponRate: Ratio },
  periods: readonly CouponPeriod[],
  dirty: Decimal,
  on: CalendarDay,
): SolvedYield {
  const miss = (yearly: Decimal): Decimal => priceFromYield(terms, periods, yearly, on).dirty.minus(dirty);
  let low = new PreciseDecimal('-0.9');
  let high = new PreciseDecimal(100);
  const lowest = miss(low);
  const highest = miss(high);
  if (lowest.isNegative() || highest.isPositive()) {
    throw new TermsFault('price', 'No yield between -90% and 10,000% gives this price.');
  }
  let yearly = new PreciseDecimal(terms.couponRate.num.toString()).div(terms.couponRate.den.toString());
  let residual = miss(yearly);
  let before = yearly.plus('0.001');
  let missBefore = miss(before);
  for (let step = 0; step < 400 && residual.abs().greaterThan(tolerance); step += 1) {
    if (residual.isNegative()) high = yearly;
    else low = yearly;
    const slope = residual.minus(missBefore);
    let next = slope.isZero() ? low : yearly.minus(residual.times(yearly.minus(before)).div(slope));
    if (!next.greaterThan(low) || !next.lessThan(high)) next = low.plus(high).div(2);
    [before, missBefore] = [yearly, residual];
    yearly = next;
    residual = miss(yearly);
  }
  return { yearly, residual };
}
