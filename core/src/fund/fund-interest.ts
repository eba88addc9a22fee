import type { Fraction } from '../calendar/fraction.ts';
import { roundGrains } from '../money/rounding.ts';
import { fundGrowth } from './fund-periods.ts';
import type { FundTerms } from './fund-terms.ts';

/** Interest on an amount over a share of a year, both in grains, rounded once as the terms say. */
export function fundInterest(terms: FundTerms, earning: bigint, years: Fraction): bigint {
  const growth = fundGrowth(terms, years);
  return roundGrains(terms, { num: earning * growth.num, den: growth.den });
}
