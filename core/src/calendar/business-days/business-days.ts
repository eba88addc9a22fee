import { calendarFields, type CalendarDay } from '../calendar-day.ts';
import { targetHoliday } from './target.ts';
import { federalReserveHoliday } from './us-federal-reserve.ts';
import { weekday } from './weekday.ts';

/** The holidays of each calendar, by the name it has in an instrument document; weekends are never open. */
const holidays = {
  TARGET: targetHoliday,
  'US Federal Reserve': federalReserveHoliday,
  weekends: () => false,
} as const satisfies Record<string, (day: CalendarDay) => boolean>;

export type BusinessCalendar = keyof typeof holidays;

/** The calendars, in the order they are offered. */
export const businessCalendars = Object.keys(holidays) as [BusinessCalendar, ...BusinessCalendar[]];

/** How a date that is not a business day moves. */
export const businessDayRules = ['following', 'modified-following', 'preceding'] as const;

export type BusinessDayRule = (typeof businessDayRules)[number];

/** Days that are closed besides those of a calendar, such as those of one place or one bank. */
export type ClosedDays = ReadonlySet<CalendarDay>;

const none: ClosedDays = new Set();

/** Whether banks that keep a calendar, and are closed on some days besides, are open on a day. */
export function isBusinessDay(day: CalendarDay, calendar: BusinessCalendar, closed = none): boolean {
  return weekday(day) < 5 && !holidays[calendar](day) && !closed.has(day);
}

/**
 * The business day that a date moves to: the next one (`following`), the one before (`preceding`), or the next
 * unless that is in another month and then the one before (`modified-following`). Source: 2006 ISDA Definitions,
 * section 4.12.
 */
export function businessDay(
  day: CalendarDay,
  rule: BusinessDayRule,
  calendar: BusinessCalendar,
  closed = none,
): CalendarDay {
  const step = rule === 'preceding' ? -1 : 1;
  let moved = day;
  while (!isBusinessDay(moved, calendar, closed)) moved += step;
  if (rule !== 'modified-following' || calendarFields(moved).month === calendarFields(day).month)
    return moved;
  moved = day;
  while (!isBusinessDay(moved, calendar, closed)) moved -= 1;
  return moved;
}
