import type { CalendarDay } from '../../calendar/calendar-day.ts';
import type { Fraction } from '../../calendar/fraction.ts';
import { addRatios, multiplyRatios, ratio, type Ratio } from '../../money/ratio.ts';
import { roundRatio } from '../../money/round-ratio.ts';
import { growthEstimate, growthOver, growsOnInterest, type Compounding } from '../../rates/compounding.ts';

/** What a segment is made of. */
export interface SegmentParts {
  readonly from: CalendarDay;
  readonly to: CalendarDay;
  /** Grains, and how many of them are a minor unit. */
  readonly grains: bigint;
  readonly perMinorUnit: bigint;
  readonly annualRate: Ratio;
  readonly compounding: Compounding;
  /** Place among the rates. */
  readonly rate: number;
  /** Days as the day count counts them. */
  readonly days: number;
  readonly years: Fraction;
  /** The segment before it since interest was last charged. */
  readonly before: InterestSegment | undefined;
  /** Grains of interest that had accrued before the first segment and earn interest as what follows does. */
  readonly broughtIn: bigint;
}

/**
 * A stretch of days over which balance, rate and period stay the same. Amounts in minor units, exact. What is exact
 * is worked out when it is asked for: the estimate settles nearly every rounding.
 */
export class InterestSegment {
  readonly from: CalendarDay;
  readonly to: CalendarDay;
  readonly annualRate: Ratio;
  readonly rate: number;
  readonly days: number;
  readonly years: Fraction;
  /** Interest as a double, good to one part in 2^42. */
  readonly estimate: number;
  private readonly earnedEstimate: number;
  private exact: { growth: Ratio; onInterest: Ratio; interest: Ratio; earned: Ratio } | undefined;

  constructor(private readonly parts: SegmentParts) {
    this.from = parts.from;
    this.to = parts.to;
    this.annualRate = parts.annualRate;
    this.rate = parts.rate;
    this.days = parts.days;
    this.years = parts.years;
    const { before, compounding } = parts;
    const earned = before?.earnedEstimate ?? Number(parts.broughtIn) / Number(parts.perMinorUnit);
    const owed = Number(parts.grains) / Number(parts.perMinorUnit);
    const bears = growsOnInterest(compounding) ? owed + earned : owed;
    this.estimate = bears * growthEstimate(parts.annualRate, compounding, parts.years);
    this.earnedEstimate = earned + this.estimate;
  }

  get balance(): Ratio {
    return ratio(this.parts.grains, this.parts.perMinorUnit);
  }

  /** Interest per unit of balance. */
  get growth(): Ratio {
    return this.workedOut().growth;
  }

  /** Interest of the segments before that itself earns interest; zero unless the rate compounds within a period. */
  get onInterest(): Ratio {
    return this.workedOut().onInterest;
  }

  get interest(): Ratio {
    return this.workedOut().interest;
  }

  private workedOut(): { growth: Ratio; onInterest: Ratio; interest: Ratio; earned: Ratio } {
    if (this.exact) return this.exact;
    const { annualRate, compounding, years, before, broughtIn, perMinorUnit } = this.parts;
    const earned = before ? before.workedOut().earned : ratio(broughtIn, perMinorUnit);
    const growth = growthOver(annualRate, compounding, years);
    const onInterest = growsOnInterest(compounding) ? earned : ratio(0n);
    const interest = cut(multiplyRatios(addRatios(this.balance, onInterest), growth));
    this.exact = { growth, onInterest, interest, earned: cut(addRatios(earned, interest)) };
    return this.exact;
  }
}

const longest = 2n ** 300n;
const eightyPlaces = 10n ** 80n;

/** Keeps the parts of a ratio from growing without end: beyond 80 decimals nothing can matter. */
function cut(value: Ratio): Ratio {
  if (value.den < longest) return value;
  const num = roundRatio({ num: value.num * eightyPlaces, den: value.den }, 'away-from-zero');
  return { num, den: eightyPlaces };
}

/** The unrounded interest of segments, minor units. */
export function exactInterest(segments: readonly InterestSegment[]): Ratio {
  return segments.reduce((sum, segment) => cut(addRatios(sum, segment.interest)), ratio(0n));
}

/**
 * The interest of segments in whole steps of so many minor units, where the estimate is clear of a half by far more
 * than its error; else `undefined`.
 */
export function estimatedSteps(segments: readonly InterestSegment[], step: number): number | undefined {
  let sum = 0;
  for (const { estimate } of segments) {
    // Interest of either sign could cancel, and the error would no longer be small beside the sum.
    if (estimate < 0) return undefined;
    sum += estimate;
  }
  const steps = sum / step;
  if (steps >= 2 ** 40) return undefined;
  const beside = Math.abs(steps + 0.5 - Math.round(steps + 0.5));
  return beside > steps * 2 ** -40 + 2 ** -38 ? Math.floor(steps + 0.5) : undefined;
}

/** Growth over a period that is not whole or not undisturbed: exact when asked for, and as a double. */
export interface PartGrowth {
  readonly exact: () => Ratio;
  readonly estimate: number;
}

/** The interest of segments per unit of a balance in grains. */
export function partGrowth(
  segments: readonly InterestSegment[],
  balance: bigint,
  perMinorUnit: bigint,
): PartGrowth {
  const estimated = segments.reduce((sum, { estimate }) => sum + estimate, 0);
  return {
    exact: () => {
      const interest = exactInterest(segments);
      return { num: interest.num * perMinorUnit, den: interest.den * balance };
    },
    estimate: (estimated * Number(perMinorUnit)) / Number(balance),
  };
}
