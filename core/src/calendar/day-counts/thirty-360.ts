import { calendarFields } from '../calendar-day.ts';
import { thirtyDayMonths } from './day-count.ts';

/**
 * 30/360, bond basis: months of 30 days. A start on the 31st becomes the 30th; an end on the 31st becomes the
 * 30th when the start is on the 30th or 31st. Source: 2006 ISDA Definitions, section 4.16(f).
 */
export const thirty360 = thirtyDayMonths('30/360, months of 30 days', (from, to) => {
  const a = calendarFields(from);
  const b = calendarFields(to);
  const startDay = Math.min(a.day, 30);
  const endDay = b.day === 31 && startDay === 30 ? 30 : b.day;
  return 360 * (b.year - a.year) + 30 * (b.month - a.month) + (endDay - startDay);
});
