import { calendarFields, daysInMonth, type CalendarDay } from '../calendar-day.ts';
import { thirtyDayMonths } from './day-count.ts';

/**
 * 30E/360 (ISDA): the last day of any month counts as the 30th, February's too unless it is the day the agreement
 * ends. Source: 2006 ISDA Definitions, section 4.16(h).
 */
export const thirty360EuropeanIsda = thirtyDayMonths(
  '30E/360 (ISDA), months of 30 days, month ends counted as the 30th',
  (from, to, period) => {
    const a = calendarFields(from);
    const b = calendarFields(to);
    const keepsEnd = b.month === 2 && to === period?.termination;
    const endDay = isMonthEnd(to) && !keepsEnd ? 30 : b.day;
    const startDay = isMonthEnd(from) ? 30 : a.day;
    return 360 * (b.year - a.year) + 30 * (b.month - a.month) + (endDay - startDay);
  },
);

function isMonthEnd(day: CalendarDay): boolean {
  const fields = calendarFields(day);
  return fields.day === daysInMonth(fields.year, fields.month);
}
