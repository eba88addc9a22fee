import { formatDay, type CalendarDay } from '../calendar/calendar-day.ts';
import type { Frequency } from '../calendar/frequency.ts';
import { cycleDate } from '../calendar/payment-dates.ts';
import { addRatios, compareRatios, ratio, type Ratio } from '../money/ratio.ts';

/** What a change of the rate does to a payment that covers interest and principal. */
export type PaymentAfterRate = 're-level' | 'keep';

/** A published value of an index, from the day it applies. */
export interface Fixing {
  readonly on: CalendarDay;
  /** Annual, as a fraction; may be negative. */
  readonly rate: Ratio;
}

/** An index that a floating rate follows. Rates are annual fractions. */
export interface RateIndex {
  readonly name: string;
  readonly margin: Ratio;
  /** Least and greatest rate, the margin included. */
  readonly floor?: Ratio;
  readonly cap?: Ratio;
  /** How often the rate is set anew, counted from the start of the loan. */
  readonly resetEvery?: Frequency;
  readonly payment: PaymentAfterRate;
  readonly fixings: readonly Fixing[];
}

/** A rate set from an index: what it is made of, and which bound held it. */
export interface IndexedRate {
  readonly rate: Ratio;
  readonly heldBy: 'floor' | 'cap' | 'zero' | null;
}

/**
 * Index plus margin, kept within floor and cap (which apply to the sum). Without a floor the rate never goes below
 * zero: a borrower is not paid for borrowing unless that is agreed as a negative floor (common practice).
 */
export function indexedRate(index: RateIndex, fixing: Ratio): IndexedRate {
  const sum = addRatios(fixing, index.margin);
  const floor = index.floor ?? ratio(0n);
  if (compareRatios(sum, floor) < 0) return { rate: floor, heldBy: index.floor ? 'floor' : 'zero' };
  if (index.cap && compareRatios(sum, index.cap) > 0) return { rate: index.cap, heldBy: 'cap' };
  return { rate: sum, heldBy: null };
}

/**
 * The reset dates from the start through a day that have no fixing of their own. Where none was set by the start the rate
 * agreed holds until the first reset after it, and the start needs none.
 */
export function missingFixings(
  index: RateIndex,
  start: CalendarDay,
  keepMonthEnd: boolean,
  through: CalendarDay,
): CalendarDay[] {
  if (!index.resetEvery) return [];
  const fixed = new Set(index.fixings.map(({ on }) => on));
  const cycle = { anchor: start, every: index.resetEvery, keepMonthEnd };
  const missing: CalendarDay[] = [];
  const isAgreed = !index.fixings.some(({ on }) => on <= start);
  for (let at = isAgreed ? 1 : 0; ; at += 1) {
    const reset = cycleDate(cycle, at);
    if (reset > through) return missing;
    if (!fixed.has(reset)) missing.push(reset);
  }
}

/**
 * Says which fixing is missing and what is done without it.
 *
 * @example
 * missingFixingText({ name: 'Norbay three-month rate' }, day('2025-03-31'))
 * // 'Norbay three-month rate has no fixing for 2025-03-31; interest runs on the last one known.'
 */
export function missingFixingText(index: RateIndex, on: CalendarDay): string {
  return `${index.name} has no fixing for ${formatDay(on)}; interest runs on the last one known.`;
}
