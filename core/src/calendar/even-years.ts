import type { CalendarDay } from './calendar-day.ts';
import type { Fraction } from './fraction.ts';
import { paymentsPerYear } from './frequency.ts';
import { cycleDate, cycleIndexOnOrAfter, type DateCycle } from './payment-dates.ts';

/**
 * What the stretch from `from` to `to` is worth in years when every regular period is 1/p of a year, `to`
 * being a date of the cycle. It is n whole periods where `from` and n periods is `to`, or `to` less n periods is
 * `from`: 31 January to 28 February is one month, 31 December to 28 February two. Otherwise whole regular periods
 * count back from `to`, and the days that remain count as their share of the regular period they fall in. Source:
 * common practice for level loans with an odd first period.
 */
export function evenYears(cycle: DateCycle, from: CalendarDay, to: CalendarDay): Fraction {
  const perYear = paymentsPerYear[cycle.every];
  const last = cycleIndexOnOrAfter(cycle, to);
  const firstWhole = cycleIndexOnOrAfter(cycle, from);
  const whole = last - firstWhole;
  const boundary = cycleDate(cycle, firstWhole);
  const rest = boundary - from;
  if (rest === 0) return { num: whole, den: perYear };
  const onward = { ...cycle, anchor: from };
  const ahead = cycleIndexOnOrAfter(onward, to);
  if (cycleDate(onward, ahead) === to) return { num: ahead, den: perYear };
  const periodDays = boundary - cycleDate(cycle, firstWhole - 1);
  return { num: whole * periodDays + rest, den: periodDays * perYear };
}
