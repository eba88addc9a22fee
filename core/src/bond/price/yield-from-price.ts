import type Decimal from 'decimal.js';
import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { ratioToNumber } from '../../money/ratio.ts';
import { TermsFault } from '../../faults/terms-fault.ts';
import { BondPricing, PreciseDecimal, type PricedTerms } from './bond-price.ts';
import type { ContractualFlow } from '../terms/contractual-flows.ts';
import { couponsPerYear, yearsWithin } from '../terms/coupon-periods.ts';

/** A yield found by iteration, and what its price misses the given price by, per 1 of face. */
export interface SolvedYield {
  readonly yearly: Decimal;
  readonly residual: Decimal;
}

const tolerance = new PreciseDecimal('1e-40');
const lowest = -0.9;
const highest = 100;

/**
 * Yield from dirty price on a day, per year, compounded at the coupon frequency: the inverse of
 * {@link BondPricing}. Newton's method in doubles finds it to about fifteen digits; then the exact price's
 * miss over that slope corrects it, each step adding about as many digits again.
 * Throws {@link TermsFault} when no yield from −90 % to 10,000 % gives the price.
 *
 * @param dirty price with accrued coupon, per 1 of face
 */
export function yieldFromPrice(
  terms: PricedTerms,
  flows: readonly ContractualFlow[],
  dirty: Decimal,
  on: CalendarDay,
): SolvedYield {
  const pricing = new BondPricing(terms, flows, on);
  const estimate = estimateYield(terms, flows, dirty.toNumber(), on);
  let yearly = new PreciseDecimal(estimate.yearly);
  let residual = pricing.dirty(yearly).minus(dirty);
  for (let step = 0; step < 20 && residual.abs().greaterThan(tolerance); step += 1) {
    yearly = yearly.minus(residual.div(estimate.slope));
    residual = pricing.dirty(yearly).minus(dirty);
  }
  return { yearly, residual };
}

/** Price falls as yield rises, so the bracket always holds the one root; a step that leaves it halves it. */
function estimateYield(
  terms: PricedTerms,
  flows: readonly ContractualFlow[],
  dirty: number,
  on: CalendarDay,
): { yearly: number; slope: number } {
  const price = priceAndSlope(terms, flows, on);
  let low = lowest;
  let high = highest;
  if (price(low).value < dirty || price(high).value > dirty) {
    throw new TermsFault('price', 'No yield between -90% and 10,000% gives this price.');
  }
  let yearly = ratioToNumber(terms.couponRate);
  let { value, slope } = price(yearly);
  for (let step = 0; step < 200; step += 1) {
    if (value > dirty) low = yearly;
    else high = yearly;
    let next = yearly - (value - dirty) / slope;
    if (!(next > low && next < high)) next = (low + high) / 2;
    const moved = Math.abs(next - yearly);
    yearly = next;
    ({ value, slope } = price(yearly));
    if (moved <= 1e-15 * Math.max(1, Math.abs(yearly))) break;
  }
  return { yearly, slope };
}

/** The price and its derivative by the yield, in doubles. */
function priceAndSlope(
  terms: PricedTerms,
  flows: readonly ContractualFlow[],
  on: CalendarDay,
): (yearly: number) => { value: number; slope: number } {
  const perYear = couponsPerYear(terms);
  let ahead = 0;
  const payments = flows
    .filter(({ period }) => period.to > on)
    .map(({ period, coupon, principal }) => {
      const years = yearsWithin(terms, period, Math.max(on, period.from), period.to);
      ahead += years.num / years.den;
      return { ahead, amount: ratioToNumber(coupon) + ratioToNumber(principal) };
    });
  return (yearly) => {
    const base = 1 + yearly / perYear;
    let value = 0;
    let slope = 0;
    for (const payment of payments) {
      const discounted = payment.amount * base ** (-perYear * payment.ahead);
      value += discounted;
      slope -= (discounted * payment.ahead) / base;
    }
    return { value, slope };
  };
}
