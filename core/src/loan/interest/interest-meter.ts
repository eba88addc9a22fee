import { grainsOf, interestStep, toGrains } from '../../money/rounding.ts';
import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { roundRatio } from '../../money/round-ratio.ts';
import { roundedProduct } from '../../money/rounded-product.ts';
import { rateAt, type RateTimeline } from '../../rates/rate-timeline.ts';
import type { LoanColumns } from '../schedule/loan-columns.ts';
import { partGrowth, type InterestSegment, type PartGrowth } from './interest-segment.ts';
import {
  chargedAtStart,
  chargedByRow,
  interestInGrains,
  interestSegments,
  type ChargedUntil,
  type InterestRules,
} from './loan-interest.ts';
import { grainsAt } from '../schedule/loan-schedule.ts';
import type { PeriodGrowths } from './period-growths.ts';
import type { Stretch } from '../terms/stretch.ts';
import { unusedFeeOf } from '../../credit-line/unused-fee.ts';

/** Interest of a row before anything is paid. */
export interface Charge {
  /** Grains, rounded as the terms say. */
  readonly amount: bigint;
  /** Fee on the unused part of a credit line, grains. */
  readonly fee: bigint;
}

/** Measures the interest that has run since it was last charged. */
export class InterestMeter {
  private since: ChargedUntil;
  private readonly grains: bigint;

  constructor(
    private readonly rules: InterestRules,
    private readonly growths: PeriodGrowths,
    private readonly columns: LoanColumns,
  ) {
    const { terms } = rules;
    this.grains = grainsOf(terms);
    this.since = chargedAtStart(terms);
  }

  /** The day that interest has been charged to. */
  get chargedTo(): CalendarDay {
    return this.since.day;
  }

  /** Whether no row has been written since interest was last charged. */
  get undisturbed(): boolean {
    return this.since.nextRow === this.columns.length && !this.since.broughtIn;
  }

  /** Whether no interest can have run since it was last charged: nothing has been owed. */
  get idle(): boolean {
    if (this.since.balance > 0n) return false;
    for (let row = this.since.nextRow; row < this.columns.length; row += 1) {
      if (grainsAt(this.columns, 'closing', row) > 0n) return false;
    }
    return true;
  }

  /** Whether a period of a stretch begins where interest was last charged. */
  beginsAt(stretch: Stretch, at: number): boolean {
    return this.since.day === (at === 0 ? stretch.opens : stretch.interestDays[at - 1]);
  }

  /** Whether the period of a payment begins where interest was last charged, with nothing since, at one rate so far. */
  wholeFrom(stretch: Stretch, at: number, rate: number): boolean {
    return (
      this.undisturbed && this.beginsAt(stretch, at) && rateAt(this.rules.rates, this.since.day) === rate
    );
  }

  /** Notes that the row just written has charged interest; the balance after it in grains. */
  charged(balance: bigint): void {
    const row = this.columns.length - 1;
    const day = this.columns.chargedTo[row] as number;
    // Only a row that charges to a day before its own looks back at what came between.
    this.since =
      (this.columns.date[row] as number) <= day
        ? { day, balance, nextRow: row + 1 }
        : chargedByRow(this.columns, row);
  }

  /**
   * Unrounded interest per unit of a balance from where it was last charged to a day, as far as is known.
   *
   * @param rates those known, the last of them going on
   */
  growthThrough(day: CalendarDay, balance: bigint, rates: RateTimeline): PartGrowth {
    const segments = interestSegments({ ...this.rules, rates }, this.columns, this.since, day);
    return partGrowth(segments, balance, this.grains);
  }

  /** Interest from where it was last charged to a day, rounded once. */
  chargeTo(day: CalendarDay, balance: bigint, stretch?: Stretch, at = 0): Charge {
    const { since, columns, grains } = this;
    const { terms, rates } = this.rules;
    const rate = rateAt(rates, since.day);
    const whole =
      stretch !== undefined &&
      terms.creditLine === undefined &&
      this.undisturbed &&
      day === stretch.interestDays[at] &&
      this.beginsAt(stretch, at) &&
      rate === rateAt(rates, day - 1);
    if (whole) {
      const { exact, toSteps } = this.growths.at(stretch, at, rate);
      if (grains > 1n) {
        const { num, den } = exact();
        return { amount: toGrains(terms, { num: balance * num, den: grains * den }), fee: 0n };
      }
      const inSteps = roundedProduct(Number(balance), toSteps, terms.rounding.ties);
      return { amount: BigInt(inSteps * interestStep(terms)), fee: 0n };
    }
    const segments = interestSegments(this.rules, columns, since, day);
    return {
      amount: interestInGrains(terms, segments),
      fee: this.unusedFee(segments),
    };
  }

  private unusedFee(segments: readonly InterestSegment[]): bigint {
    const { creditLine, rounding } = this.rules.terms;
    if (!creditLine || creditLine.unusedFee.num === 0n) return 0n;
    const exact = unusedFeeOf(creditLine.limit, creditLine.unusedFee, segments);
    return roundRatio(exact, rounding.ties) * this.grains;
  }
}
