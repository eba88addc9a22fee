import { calendarDay, calendarFields } from '../calendar-day.ts';
import type { DayCount } from './day-count.ts';

/**
 * Actual days, those in a leap year over 366 and the others over 365. Source: 2006 ISDA Definitions, section
 * 4.16(b).
 */
export const actualActualIsda: DayCount = {
  title: 'actual days over 366 in leap years and 365 in others',
  days: (from, to) => to - from,
  years: (from, to) => {
    let leap = 0;
    for (let { year } = calendarFields(from); ; year += 1) {
      const begins = calendarDay(year, 1, 1);
      if (begins >= to) break;
      const ends = calendarDay(year + 1, 1, 1);
      if (ends - begins === 366) leap += Math.min(to, ends) - Math.max(from, begins);
    }
    const common = to - from - leap;
    if (leap === 0) return { num: common, den: 365 };
    if (common === 0) return { num: leap, den: 366 };
    return { num: common * 366 + leap * 365, den: 365 * 366 };
  },
};
