import type { CalendarDay } from './calendar-day.ts';
import { evenYears } from './even-years.ts';
import type { Fraction, InterestPeriod } from './fraction.ts';
import { paymentsPerYear } from './frequency.ts';
import { cycleDate, cycleIndexOnOrAfter, type DateCycle } from './payment-dates.ts';

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
    evenYears: from === to ? { num: 0, den: perYear } : evenYears(counted, from, to),
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
