import { calendarFields } from '../calendar-day.ts';
import { thirtyDayMonths } from './day-count.ts';

/** 30E/360: both ends on the 31st become the 30th. Source: 2006 ISDA Definitions, section 4.16(g). */
export const thirty360European = thirtyDayMonths(
  '30E/360, months of 30 days, the 31st counted as the 30th',
  (from, to) => {
    const a = calendarFields(from);
    const b = calendarFields(to);
    return 360 * (b.year - a.year) + 30 * (b.month - a.month) + (Math.min(b.day, 30) - Math.min(a.day, 30));
  },
);
