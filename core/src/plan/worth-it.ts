import type { CalendarDay } from '../calendar/calendar-day.ts';
import { presentValue } from './present-value.ts';
import type { Horizon, Step } from './frontier.ts';
import type { Count, MinorUnits } from '../units/units.ts';

/** A place on the curve of horizons, between two of them where it falls between. Minor units. */
export interface CurvePlace {
  readonly years: number;
  readonly yearlyCash: MinorUnits;
}

/**
 * Where the interest that one more step adds equals the cash that it frees, from the fastest horizon on; what a step
 * adds and frees stands at its end, and between two of them the difference is taken to run straight.
 *
 * @param months of freed cash that are held against the interest of a step: 1 or 12
 *
 * @example
 * crossings([], [], 12) // []
 */
export function crossings(
  horizons: readonly Horizon[],
  steps: readonly (Step | undefined)[],
  months: Count,
): CurvePlace[] {
  const differences = steps.map((step) => step && step.addedInterest - (step.freedYearlyCash * months) / 12);
  const found: CurvePlace[] = [];
  for (let at = 0; at < horizons.length; at += 1) {
    const [to, now, then] = [horizons[at], differences[at], differences[at - 1]];
    const from = horizons[at - 1];
    if (!to || now === undefined) continue;
    if (now === 0) found.push({ years: to.years, yearlyCash: to.yearlyCash });
    else if (from && then !== undefined && then !== 0 && Math.sign(now) !== Math.sign(then)) {
      const share = then / (then - now);
      found.push({
        years: from.years + share * (to.years - from.years),
        yearlyCash: from.yearlyCash + share * (to.yearlyCash - from.yearlyCash),
      });
    }
  }
  return found;
}

/**
 * The horizon whose payments are worth least at a rate, and what they are worth; the first of several.
 *
 * @example
 * leastWorth([], day('2025-06-30'), 0.05) // undefined
 */
export function leastWorth(
  horizons: readonly Horizon[],
  on: CalendarDay,
  rate: number,
): { readonly horizon: Horizon; readonly presentValue: MinorUnits } | undefined {
  const whole = horizons.filter(({ without }) => without === 0);
  const worths = whole.map((horizon) => ({
    horizon,
    presentValue: presentValue(horizon.payments, on, rate),
  }));
  return worths.reduce<(typeof worths)[number] | undefined>(
    (least, each) => (least && least.presentValue <= each.presentValue ? least : each),
    undefined,
  );
}
