import type Decimal from 'decimal.js';
import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { ratioToNumber } from '../../money/ratio.ts';
import { fallingRoot, type ValueAndSlope } from '../../search/falling-root.ts';
import { TermsFault } from '../../faults/terms-fault.ts';
import { BondPricing, PreciseDecimal, type PricedTerms } from './bond-price.ts';
import type { ContractualFlow } from '../terms/contractual-flows.ts';

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
  const start = ratioToNumber(terms.couponRate);
  // Price falls as yield rises.
  const estimate = fallingRoot(priceAndSlope(pricing), dirty.toNumber(), { lowest, highest, start });
  if (!estimate) throw new TermsFault('price', 'No yield between -90% and 10,000% gives this price.');
  let yearly = new PreciseDecimal(estimate.root);
  let residual = pricing.dirty(yearly).minus(dirty);
  for (let step = 0; step < 20 && residual.abs().greaterThan(tolerance); step += 1) {
    yearly = yearly.minus(residual.div(estimate.slope));
    residual = pricing.dirty(yearly).minus(dirty);
  }
  return { yearly, residual };
}

/** The price and its derivative by the yield, in doubles. */
function priceAndSlope({ perYear, payments }: BondPricing): (yearly: number) => ValueAndSlope {
  let years = 0;
  const paid = payments.map(({ ahead, amount }) => {
    years += ahead.num / ahead.den;
    return { years, amount: amount.toNumber() };
  });
  return (yearly) => {
    const base = 1 + yearly / perYear;
    let value = 0;
    let slope = 0;
    for (const payment of paid) {
      const discounted = payment.amount * base ** (-perYear * payment.years);
      value += discounted;
      slope -= (discounted * payment.years) / base;
    }
    return { value, slope };
  };
}
