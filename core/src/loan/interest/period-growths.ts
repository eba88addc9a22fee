import { interestStep } from '../../money/rounding.ts';
import type { Fraction } from '../../calendar/fraction.ts';
import { dayCounts } from '../../calendar/day-counts/day-counts.ts';
import { paymentsPerYear } from '../../calendar/frequency.ts';
import { ratio, type Ratio } from '../../money/ratio.ts';
import { estimatedMultiplier, multiplier, type Multiplier } from '../../money/rounded-product.ts';
import { growsOnInterest, growthEstimate, growthOver } from '../../rates/compounding.ts';
import type { RateTimeline } from '../../rates/rate-timeline.ts';
import type { LoanTerms } from '../terms/loan-terms.ts';
import { stretchPeriod, type Stretch } from '../terms/stretch.ts';

/** What a whole period does to a balance, in the two forms in which it is needed. */
export interface PeriodGrowth {
  /** Interest per unit of balance, exact; worked out when it is asked for. */
  readonly exact: () => Ratio;
  /** The same as a double. */
  readonly estimate: number;
  /** The same per rounding step, prepared for multiplying balances. */
  readonly toSteps: Multiplier;
}

/** Looks up the growth of whole periods at one rate; the few that differ within a loan are each worked out once. */
export class PeriodGrowths {
  /** By rate, then by denominator, then by numerator: small whole numbers, quicker to look up than one key of all. */
  private readonly known: Map<number, PeriodGrowth[]>[] = [];
  private readonly daysKnown: PeriodGrowth[][] = [];
  private readonly evenKnown: PeriodGrowth[] = [];
  private readonly tables: Map<Stretch, PeriodGrowth[]>[] = [];
  private readonly step: bigint;
  private readonly even: boolean;
  private readonly yearOf: number | undefined;

  constructor(
    private readonly terms: LoanTerms,
    private readonly rates: RateTimeline,
  ) {
    this.step = BigInt(interestStep(terms));
    this.even = terms.dayCount === 'even-periods';
    this.yearOf = dayCounts[terms.dayCount].yearOf;
  }

  /** The place in a stretch from which on every period, however far it is spread, grows as the one before. */
  evenFrom({ cycleFrom, oddLast }: Stretch): number | undefined {
    return this.even && cycleFrom !== null && !oddLast ? 1 : undefined;
  }

  /**
   * Growth over the period that ends with a payment of a stretch.
   *
   * @param at place of the payment in the stretch
   * @param rate place among the rates of the one in force
   */
  at(stretch: Stretch, at: number, rate: number): PeriodGrowth {
    if (at > 0 && stretch.cycleFrom !== null && !(stretch.oddLast && at === stretch.agreedCount - 1)) {
      if (this.even) {
        const perYear = paymentsPerYear[stretch.cycle.every];
        return (this.evenKnown[64 * rate + perYear] ??= this.growth({ num: 1, den: perYear }, rate));
      }
      if (this.yearOf !== undefined) {
        const days = (stretch.interestDays[at] as number) - (stretch.interestDays[at - 1] as number);
        const ofRate = (this.daysKnown[rate] ??= []);
        return (ofRate[days] ??= this.growth({ num: days, den: this.yearOf }, rate));
      }
    }
    return (this.tableOf(stretch, rate)[at] ??= this.counted(stretch, at, rate));
  }

  private counted(stretch: Stretch, at: number, rate: number): PeriodGrowth {
    const period = stretchPeriod(stretch, at);
    return this.growth(dayCounts[this.terms.dayCount].years(period.from, period.to, period), rate);
  }

  /** Growths of a stretch at a rate by place: each period is counted once, however often a payment is set over it. */
  private tableOf(stretch: Stretch, rate: number): PeriodGrowth[] {
    const ofRate = (this.tables[rate] ??= new Map<Stretch, PeriodGrowth[]>());
    let growths = ofRate.get(stretch);
    if (!growths) ofRate.set(stretch, (growths = []));
    return growths;
  }

  private growth({ num, den }: Fraction, rate: number): PeriodGrowth {
    const ofRate = (this.known[rate] ??= new Map<number, PeriodGrowth[]>());
    let ofDenominator = ofRate.get(den);
    if (!ofDenominator) ofRate.set(den, (ofDenominator = []));
    let found = ofDenominator[num];
    if (!found) {
      const annual = (this.rates[rate] as RateTimeline[number]).annualRate;
      found = this.made(annual, { num, den });
      ofDenominator[num] = found;
    }
    return found;
  }

  private made(annual: Ratio, years: Fraction): PeriodGrowth {
    const { compounding } = this.terms;
    const estimate = growthEstimate(annual, compounding, years);
    if (growsOnInterest(compounding)) {
      const exact = (): Ratio => growthOver(annual, compounding, years);
      const toSteps = (): Ratio => this.perStep(exact());
      return { exact, estimate, toSteps: estimatedMultiplier(estimate / Number(this.step), toSteps) };
    }
    const exact = growthOver(annual, compounding, years);
    return { exact: () => exact, estimate, toSteps: multiplier(this.perStep(exact)) };
  }

  private perStep({ num, den }: Ratio): Ratio {
    return ratio(num, den * this.step);
  }
}
