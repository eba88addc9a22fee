import { addMonths, calendarFields, type CalendarDay } from '../../calendar/calendar-day.ts';
import { multiplyRatios, addRatios, ratio, type Ratio } from '../../money/ratio.ts';
import { roundRatio, type Ties } from '../../money/round-ratio.ts';
import type { Count, MinorUnits } from '../../units/units.ts';

/** By how much an amount rises each year: a share of what it was, or the same amount. */
export type Rise =
  | { readonly by: 'share'; readonly share: Ratio }
  /** Minor units. */
  | { readonly by: 'amount'; readonly amount: MinorUnits };

/** Years after which an amount rises no more: longer than any loan runs. */
const mostYears = 120;

/** More than this is more than anything that is owed, and could not be kept exactly. */
const most = Number.MAX_SAFE_INTEGER;

/**
 * An amount after some rises, minor units: each year's is that of the year before with the rise, rounded to the minor
 * unit, so that what is agreed can be read off year by year. Source: common practice of graduated payments.
 */
export function risen(amount: MinorUnits, rise: Rise | undefined, years: Count, ties: Ties): MinorUnits {
  if (!rise) return amount;
  const times = Math.min(Math.max(0, years), mostYears);
  if (rise.by === 'amount') return Math.min(most, amount + times * rise.amount);
  const factor = addRatios(ratio(1n), rise.share);
  let now = BigInt(amount);
  for (let year = 0; year < times && now < most; year += 1) {
    now = roundRatio(multiplyRatios(ratio(now), factor), ties);
  }
  return Math.min(most, Number(now));
}

/** Whole years from one day to another; none before it. A 29 February comes round on the last day of February. */
export function wholeYears(from: CalendarDay, to: CalendarDay): Count {
  if (to <= from) return 0;
  const years = calendarFields(to).year - calendarFields(from).year;
  return addMonths(from, 12 * years, false) <= to ? years : years - 1;
}
