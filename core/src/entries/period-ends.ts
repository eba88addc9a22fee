import { addMonths, calendarFields, monthEnd, type CalendarDay } from '../calendar/calendar-day.ts';

/** How long a reporting period is; `none` makes no period-end entries. */
export const periodLengths = ['month', 'quarter', 'year', 'none'] as const;
export type PeriodLength = (typeof periodLengths)[number];

/** The ends of calendar months, quarters or years from one day to another, both included. */
export function periodEnds(length: PeriodLength, from: CalendarDay, to: CalendarDay): CalendarDay[] {
  const months = { month: 1, quarter: 3, year: 12, none: 0 }[length];
  const ends: CalendarDay[] = [];
  if (months === 0) return ends;
  for (let end = monthEnd(from); end <= to; end = addMonths(end, 1, true)) {
    if (calendarFields(end).month % months === 0) ends.push(end);
  }
  return ends;
}

/** The period end before one: the last day of the period before. */
export function periodEndBefore(length: PeriodLength, end: CalendarDay): CalendarDay {
  return addMonths(end, length === 'year' ? -12 : length === 'quarter' ? -3 : -1, true);
}
