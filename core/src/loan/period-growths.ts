import type { DayCount } from '../calendar/day-counts/day-count.ts';
import { dayCounts } from '../calendar/day-counts/day-counts.ts';
import { paymentsPerYear } from '../calendar/frequency.ts';
import type { Fraction } from '../calendar/fraction.ts';
import { ratio, type Ratio } from '../money/ratio.ts';
import { multiplier, type Multiplier } from '../money/rounded-product.ts';
import { simpleGrowth } from '../rates/annual-rate.ts';
import { interestPeriod, interestStep } from './loan-interest.ts';
import type { LoanTerms } from './loan-terms.ts';

/** What a whole period does to a balance, in the two forms in which it is needed. */
export interface PeriodGrowth {
  /** rate × years, exact. */
  readonly exact: Ratio;
  /** The same per rounding step, prepared for multiplying balances. */
  readonly toSteps: Multiplier;
}

/** Looks up the growth of whole periods; the few that differ within a loan are each worked out once. */
export class PeriodGrowths {
  /** By denominator, then by numerator: small whole numbers, quicker to look up than any one key of both. */
  private readonly known = new Map<number, PeriodGrowth[]>();
  private readonly regular: PeriodGrowth | undefined;
  private readonly step: bigint;
  private readonly rule: DayCount;
  private readonly evenYears: Fraction;

  /** @param dues the due dates from index 0 on, as far as they will be asked for */
  constructor(
    private readonly terms: LoanTerms,
    private readonly dues: Int32Array,
  ) {
    this.step = BigInt(interestStep(terms));
    this.rule = dayCounts[terms.dayCount];
    this.evenYears = { num: 1, den: paymentsPerYear[terms.every] };
    if (terms.dayCount === 'even-periods') {
      this.regular = this.growth(this.evenYears);
    }
  }

  /** Growth over the period that ends with the payment of an index. */
  at(index: number): PeriodGrowth {
    if (index === 0) return this.growth(this.firstYears());
    if (this.regular) return this.regular;
    const from = this.dues[index - 1] as number;
    const to = this.dues[index] as number;
    const period = { from, to, evenYears: this.evenYears };
    return this.growth(this.rule.years(from, to, period));
  }

  private firstYears(): Fraction {
    const period = interestPeriod(this.terms, 0);
    return this.rule.years(period.from, period.to, period);
  }

  private growth({ num, den }: Fraction): PeriodGrowth {
    let ofDenominator = this.known.get(den);
    if (!ofDenominator) this.known.set(den, (ofDenominator = []));
    let found = ofDenominator[num];
    if (!found) {
      const exact = simpleGrowth(this.terms.annualRate, { num, den });
      found = { exact, toSteps: multiplier(ratio(exact.num, exact.den * this.step)) };
      ofDenominator[num] = found;
    }
    return found;
  }
}
