import type { Fraction } from '../calendar/fraction.ts';
import { ratio } from '../money/ratio.ts';
import { roundRatio } from '../money/round-ratio.ts';
import { fundGrowth } from './fund-periods.ts';
import type { FundTerms } from './fund-terms.ts';

/** Interest on an amount over a share of a year in minor units, rounded once. */
export function fundInterest(terms: FundTerms, earning: number, years: Fraction): number {
  const growth = fundGrowth(terms, years);
  const step = terms.rounding.interest === 'unit' ? 10 ** terms.digits : 1;
  const exact = ratio(BigInt(earning) * growth.num, growth.den * BigInt(step));
  return Number(roundRatio(exact, terms.rounding.ties)) * step;
}
