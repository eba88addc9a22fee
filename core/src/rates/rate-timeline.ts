import { formatDay, type CalendarDay } from '../calendar/calendar-day.ts';
import type { Ratio } from '../money/ratio.ts';
import {
  indexedRate,
  type Fixing,
  type IndexedRate,
  type PaymentAfterRate,
  type RateIndex,
} from './rate-index.ts';
import { formatPercent } from './annual-rate.ts';

/** A rate agreed from a day on. Annual, as a fraction. */
export interface RateStep {
  readonly from: CalendarDay;
  readonly annualRate: Ratio;
  readonly payment: PaymentAfterRate;
}

/** A rate in force from a day until the next. */
export interface RateInForce extends RateStep {
  /** Why, in words for people. */
  readonly because: string;
  readonly set?: IndexedRate;
}

/** The rates of an agreement in order, the first in force from the start. */
export type RateTimeline = readonly RateInForce[];

/** All rates from the start on: the agreed one, its steps, and those set from an index by its fixings. */
export function rateTimeline(
  start: CalendarDay,
  annualRate: Ratio,
  steps: readonly RateStep[],
  index?: RateIndex,
): RateTimeline {
  const later: RateInForce[] = steps.map((step) => ({ ...step, because: `step on ${formatDay(step.from)}` }));
  if (index) later.push(...index.fixings.map((fixing) => rateFromIndex(index, fixing)));
  later.sort((a, b) => a.from - b.from);
  // What was set on or before the start is what the agreement starts with.
  const before = later.filter((rate) => rate.from <= start).at(-1);
  const first: RateInForce = before
    ? { ...before, from: start }
    : { from: start, annualRate, payment: 'keep', because: 'agreed' };
  return [first, ...later.filter((rate) => rate.from > start)];
}

function rateFromIndex(index: RateIndex, { on, rate }: Fixing): RateInForce {
  const set = indexedRate(index, rate);
  const held = set.heldBy ? `, held by the ${set.heldBy === 'zero' ? 'least rate of zero' : set.heldBy}` : '';
  return {
    from: on,
    annualRate: set.rate,
    payment: index.payment,
    set,
    because: `${index.name} ${formatPercent(rate)} on ${formatDay(on)} + ${formatPercent(index.margin)}${held}`,
  };
}

/**
 * Place in a timeline of the rate in force on a day.
 *
 * @example
 * rateAt(loan.rates, day('2025-06-30')) // 0
 */
export function rateAt(rates: RateTimeline, on: CalendarDay): number {
  let at = rates.length - 1;
  while (at > 0 && (rates[at] as RateInForce).from > on) at -= 1;
  return at;
}
