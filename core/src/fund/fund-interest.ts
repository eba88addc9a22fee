import type { Fraction } from '../calendar/fraction.ts';
import { ratio } from '../money/ratio.ts';
import { roundRatio } from '../money/round-ratio.ts';
import { fundGrowth } from './fund-periods.ts';
import { fundGrains, type FundTerms } from './fund-terms.ts';

/** Grains that interest is rounded to. */
export function fundInterestStep(terms: FundTerms): bigint {
  const { interest } = terms.rounding;
  if (interest === 'none') return 1n;
  return fundGrains(terms) * (interest === 'unit' ? 10n ** BigInt(terms.digits) : 1n);
}

/** Interest on an amount over a share of a year, both in grains, rounded once as the terms say. */
export function fundInterest(terms: FundTerms, earning: bigint, years: Fraction): bigint {
  const growth = fundGrowth(terms, years);
  const step = fundInterestStep(terms);
  return roundRatio(ratio(earning * growth.num, growth.den * step), terms.rounding.ties) * step;
}
