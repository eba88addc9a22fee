import type { Decimal } from 'decimal.js';
import type { Fraction } from '../../calendar/fraction.ts';
import type { InterestPeriod } from '../../calendar/interest-period.ts';
import { dayCounts } from '../../calendar/day-counts/day-counts.ts';
import { decimalOf, Precise } from '../../money/precise.ts';
import { growsOnInterest } from '../../rates/compounding.ts';
import { growthsAt } from '../../rates/growths-at.ts';
import { rateAt, rateTimeline, type RateTimeline } from '../../rates/rate-timeline.ts';
import type { LoanTerms } from './loan-terms.ts';

/** A share of a year at one rate, by its place among the rates. */
export interface RatePart {
  readonly years: Fraction;
  readonly rate: number;
}

/** The agreed rates of a loan in order, renewals apart. */
export function agreedRates({ start, annualRate, rateSteps, index }: LoanTerms): RateTimeline {
  return rateTimeline(start, annualRate, rateSteps, index);
}

/** A period cut wherever the rate changes inside it; each part is counted within the whole period. */
export function rateParts(terms: LoanTerms, rates: RateTimeline, period: InterestPeriod): RatePart[] {
  const { years } = dayCounts[terms.dayCount];
  const parts: RatePart[] = [];
  let from = period.from;
  do {
    const rate = rateAt(rates, from);
    const to = Math.min(period.to, rates[rate + 1]?.from ?? period.to);
    parts.push({ years: years(from, to, period), rate });
    from = to;
  } while (from < period.to);
  return parts;
}

/**
 * Growth over the parts of a period, unrounded: under a compounding frequency the growth of parts multiplies, otherwise
 * their interest adds up.
 *
 * @param first tried in place of the first rate
 */
export function growthOfParts(
  { compounding }: LoanTerms,
  rates: RateTimeline,
  first?: Decimal,
): (parts: readonly RatePart[]) => Decimal {
  const growths = rates.map(({ annualRate }, at) =>
    growthsAt(at === 0 && first ? first : decimalOf(annualRate), compounding),
  );
  const multiplies = growsOnInterest(compounding);
  const growthOf = ({ years, rate }: RatePart): Decimal => growths[rate]?.(years) ?? new Precise(0);
  return (parts) => {
    const [only] = parts;
    // Nearly every period is one part.
    if (only && parts.length === 1) return growthOf(only);
    return parts.reduce(
      (sum, part) =>
        multiplies ? sum.plus(1).times(growthOf(part).plus(1)).minus(1) : sum.plus(growthOf(part)),
      new Precise(0),
    );
  };
}
