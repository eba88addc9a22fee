import { Decimal } from 'decimal.js';
import type { Fraction } from '../calendar/fraction.ts';

const Precise = Decimal.clone({ precision: 50 });
const mostSteps = 60;

/** An amount paid, and the years since the payment before. */
export interface CashFlow {
  readonly years: Fraction;
  /** Minor units; negative where it is received. */
  readonly amount: number;
  /** What the agreed interest alone grows one to over those years, where a rate over it is sought. */
  readonly agreed?: number;
}

/**
 * The annual rate y, as a fraction, at which payments are worth what is carried: the carrying amount grown by
 * (1+y)^years before each payment, less the payments, ends on zero. Where flows state what the agreed interest alone
 * makes of one, y is the rate over that. Newton's method in 50 digits.
 * Source: IFRS 9 Appendix A, effective interest rate; ASC 310-20-35-18.
 */
export function solveEffectiveRate(carrying: number, flows: readonly CashFlow[], start: number): Decimal {
  let rate = new Precise(start);
  for (let step = 0; step < mostSteps; step += 1) {
    const one = rate.plus(1);
    const grown = new Map<string, Decimal>();
    let value = new Precise(carrying);
    let slope = new Precise(0);
    for (const { years, amount, agreed = 1 } of flows) {
      const key = `${years.num}/${years.den}/${agreed}`;
      const exponent = new Precise(years.num).div(years.den);
      let factor = grown.get(key);
      if (!factor) grown.set(key, (factor = one.pow(exponent).times(agreed)));
      slope = slope.times(factor).plus(value.times(factor).times(exponent).div(one));
      value = value.times(factor).minus(amount);
    }
    if (slope.isZero()) return rate;
    const change = value.div(slope);
    // A step below −100 % would leave the rates that have a meaning; half way there is safe.
    const next = rate.minus(change);
    rate = next.lte(-1) ? rate.minus(one.div(2)) : next;
    if (change.abs().lt('1e-40')) return rate;
  }
  return rate;
}
