import type { CalendarDay } from './calendar-day.ts';
import { evenYears } from './even-years.ts';
import type { Fraction } from './fraction.ts';
import { paymentsPerYear } from './frequency.ts';
import { cycleDate, cycleIndexOnOrAfter, type DateCycle } from './payment-dates.ts';
import type { Count } from '../units/units.ts';

/**
 * The interest period from one day to another. Regular periods are counted on the cycle where `to` is one of its
 * dates, and back from `to` itself where it is not (a listed or moved payment date).
 */
export function interestPeriodOf(
  cycle: DateCycle,
  from: CalendarDay,
  to: CalendarDay,
  termination?: CalendarDay,
): InterestPeriod {
  const perYear = paymentsPerYear[cycle.every];
  const onCycle = cycleDate(cycle, cycleIndexOnOrAfter(cycle, to)) === to;
  const counted = onCycle ? cycle : { ...cycle, anchor: to };
  const boundaries = [to];
  let index = cycleIndexOnOrAfter(counted, to);
  while ((boundaries[0] as number) > from) boundaries.unshift(cycleDate(counted, --index));
  return {
    from,
    to,
    evenYears: evenYears(counted, from, to),
    perYear,
    boundaries,
    ...(termination !== undefined && { termination }),
  };
}

/**
 * An odd last period: regular periods are counted on from where it begins, which is a date of the cycle, and the
 * days that remain count as their share of the regular period they fall in.
 */
export function lastPeriodOf(
  cycle: DateCycle,
  from: CalendarDay,
  to: CalendarDay,
  termination?: CalendarDay,
): InterestPeriod {
  const perYear = paymentsPerYear[cycle.every];
  let index = cycleIndexOnOrAfter(cycle, from);
  const boundaries = [cycleDate(cycle, index)];
  while ((boundaries.at(-1) as number) < to) boundaries.push(cycleDate(cycle, ++index));
  const whole = boundaries.length - 2;
  const begins = boundaries[whole] as number;
  const length = (boundaries[whole + 1] as number) - begins;
  return {
    from,
    to,
    evenYears: { num: whole * length + (to - begins), den: length * perYear },
    perYear,
    boundaries,
    ...(termination !== undefined && { termination }),
  };
}

/** A period that is regular by agreement, whatever its days: a share 1/p of a year. */
export function regularPeriod(
  from: CalendarDay,
  to: CalendarDay,
  years: Fraction,
  termination?: CalendarDay,
): InterestPeriod {
  const whole = { from, to, evenYears: years, perYear: years.den, boundaries: [from, to] };
  return termination === undefined ? whole : { ...whole, termination };
}

/** The stretch of time that one payment's or coupon's interest covers, and the regular dates around it. */
export interface InterestPeriod {
  readonly from: CalendarDay;
  readonly to: CalendarDay;
  /** What the whole period is worth in years when every regular period is worth the same. */
  readonly evenYears: Fraction;
  /** Regular periods a year. */
  readonly perYear: Count;
  /**
   * Where regular periods begin and end, from the one that `from` falls in to the one that ends with `to`: just
   * `from` and `to` when the period is itself regular.
   */
  readonly boundaries: readonly CalendarDay[];
  /** The day the agreement ends, where a rule treats it apart. */
  readonly termination?: CalendarDay;
}
