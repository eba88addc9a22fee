import { addMonths, calendarFields, monthEnd, type CalendarDay } from '../calendar/calendar-day.ts';

/** How long a period of a portfolio is. */
export const portfolioSteps = ['month', 'quarter', 'year'] as const;
export type PortfolioStep = (typeof portfolioSteps)[number];

/** A period, both days included. */
export interface PortfolioPeriod {
  readonly from: CalendarDay;
  readonly to: CalendarDay;
}

/** The most periods that are shown at once. */
export const mostPeriods = 1200;

/**
 * The months, or quarters or years of a fiscal year, from one day to another. They end on month ends; a first one that
 * is not whole begins on `from`, a last one ends on `to`.
 *
 * @param yearEndMonth the month that a fiscal year ends with, 1 to 12
 *
 * @example
 * portfolioPeriods('quarter', day('2025-01-01'), day('2025-12-31')).length // 4
 */
export function portfolioPeriods(
  step: PortfolioStep,
  from: CalendarDay,
  to: CalendarDay,
  yearEndMonth = 12,
): PortfolioPeriod[] {
  const months = { month: 1, quarter: 3, year: 12 }[step];
  const periods: PortfolioPeriod[] = [];
  let begins = from;
  while (begins <= to) {
    let end = monthEnd(begins);
    while ((calendarFields(end).month - yearEndMonth + 12) % months !== 0) end = addMonths(end, 1, true);
    periods.push({ from: begins, to: Math.min(end, to) });
    begins = end + 1;
  }
  return periods;
}
