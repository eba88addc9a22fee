import type { Decimal } from 'decimal.js';
import type { Fraction } from '../calendar/fraction.ts';
import { Precise } from '../money/precise.ts';
import { compoundingsPerYear, type Compounding } from './compounding.ts';

/** Growth over shares of a year at a rate in decimals, each share worked out once. */
export function growthsAt(rate: Decimal, compounding: Compounding): (years: Fraction) => Decimal {
  const known = new Map<string, Decimal>();
  const times = compoundingsPerYear[compounding];
  return ({ num, den }) => {
    const key = `${num}/${den}`;
    let growth = known.get(key);
    if (!growth) {
      const years = new Precise(num).div(den);
      if (times !== undefined) growth = rate.div(times).plus(1).pow(years.times(times)).minus(1);
      else growth = compounding === 'continuous' ? rate.times(years).exp().minus(1) : rate.times(years);
      known.set(key, growth);
    }
    return growth;
  };
}
