import { addMonths, calendarDay, calendarFields, daysInMonth, type CalendarDay } from './calendar-day.ts';
import { monthsBetweenPayments, paymentsPerYear, type Frequency } from './frequency.ts';
import type { Count } from '../units/units.ts';

/** A run of dates at one frequency, each counted from the anchor and never from the one before. */
export interface DateCycle {
  readonly anchor: CalendarDay;
  readonly every: Frequency;
  readonly keepMonthEnd: boolean;
}

/**
 * The date `index` steps after the anchor (before it where negative).
 * Counting from the anchor keeps 31 January, 28 February, 31 March. Half-months fall on the anchor's day and
 * 15 days from it: the 1st and 16th, the 15th and 30th (or the last day of a shorter month).
 *
 * @example
 * formatDay(cycleDate({ anchor: day('2025-01-31'), every: 'month', keepMonthEnd: false }, 1)) // '2025-02-28'
 */
export function cycleDate(cycle: DateCycle, index: Count): CalendarDay {
  const { anchor, every, keepMonthEnd } = cycle;
  if (every === 'week') return anchor + 7 * index;
  if (every === 'two-weeks') return anchor + 14 * index;
  if (every === 'half-month') return halfMonthDate(cycle, index);
  return addMonths(anchor, (monthsBetweenPayments[every] ?? 1) * index, keepMonthEnd);
}

function halfMonthDate({ anchor, keepMonthEnd }: DateCycle, index: number): CalendarDay {
  const { year, month, day } = calendarFields(anchor);
  const onMonthEnd = keepMonthEnd && day === daysInMonth(year, month);
  const early = onMonthEnd ? 15 : day <= 15 ? day : day - 15;
  const half = (year * 12 + month - 1) * 2 + (day > 15 ? 1 : 0) + index;
  const monthIndex = Math.floor(half / 2);
  const toYear = Math.floor(monthIndex / 12);
  const toMonth = monthIndex - toYear * 12 + 1;
  const late = half - monthIndex * 2 === 1;
  const last = daysInMonth(toYear, toMonth);
  return calendarDay(toYear, toMonth, late ? (onMonthEnd ? last : Math.min(early + 15, last)) : early);
}

/**
 * The smallest index whose date is on or after `day`.
 *
 * @example
 * cycleIndexOnOrAfter({ anchor: day('2025-01-31'), every: 'quarter', keepMonthEnd: true }, day('2025-05-01')) // 2
 */
export function cycleIndexOnOrAfter(cycle: DateCycle, day: CalendarDay): Count {
  // One step less than its average length says is before the day, whatever the months' lengths.
  const step = { week: 7, 'two-weeks': 14 }[cycle.every as string] ?? 365.2425 / paymentsPerYear[cycle.every];
  let index = Math.floor((day - cycle.anchor) / step) - 1;
  while (cycleDate(cycle, index) < day) index += 1;
  return index;
}

/** The dates of a cycle from index 0 on. */
export function cycleDates(cycle: DateCycle, count: Count): Int32Array {
  const dates = new Int32Array(count);
  const months = monthsBetweenPayments[cycle.every];
  if (months === undefined) {
    for (let index = 0; index < count; index += 1) dates[index] = cycleDate(cycle, index);
    return dates;
  }
  const { year, month, day } = calendarFields(cycle.anchor);
  const stick = cycle.keepMonthEnd && day === daysInMonth(year, month);
  let toYear = year;
  let toMonth = month;
  // Months are added up one after another: far quicker than placing each date anew.
  let monthStart = calendarDay(year, month, 1);
  for (let index = 0; index < count; index += 1) {
    const last = daysInMonth(toYear, toMonth);
    dates[index] = monthStart + (stick || day > last ? last : day) - 1;
    for (let step = 0; step < months; step += 1) {
      monthStart += daysInMonth(toYear, toMonth);
      toMonth += 1;
      if (toMonth > 12) {
        toMonth = 1;
        toYear += 1;
      }
    }
  }
  return dates;
}
