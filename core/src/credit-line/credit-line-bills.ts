import { addMonths, type CalendarDay } from '../calendar/calendar-day.ts';
import type { Count } from '../units/units.ts';

/** How long bills of a line without a maturity go on after the last event. */
const monthsAhead = 12;

/**
 * Through which day bills of a line without a maturity are drawn up: for a year after its last event.
 *
 * @example
 * formatDay(openLineEnds(day('2025-01-31'), [])) // '2026-01-31'
 */
export function openLineEnds(start: CalendarDay, eventDays: readonly CalendarDay[]): CalendarDay {
  return addMonths(Math.max(start, ...eventDays), monthsAhead, true);
}

/**
 * How many monthly bills there are through a day, the last of them on it, and whether that is a regular one.
 *
 * @example
 * billsThrough(day('2025-01-31'), day('2025-12-31')).count // 12
 */
export function billsThrough(
  first: CalendarDay,
  ends: CalendarDay,
): { readonly count: Count; readonly regular: boolean } {
  let count = 1;
  while (addMonths(first, count, true) <= ends) count += 1;
  const regular = addMonths(first, count - 1, true) === ends;
  return { count: regular || first >= ends ? count : count + 1, regular };
}
