import type { CalendarDay } from '../calendar/calendar-day.ts';
import { dayCounts } from '../calendar/day-counts/day-counts.ts';
import type { Fraction } from '../calendar/fraction.ts';
import type { InterestPeriod } from '../calendar/interest-period.ts';
import { paymentsPerYear } from '../calendar/frequency.ts';
import { interestPeriodOf, regularPeriod } from '../calendar/interest-period.ts';
import { cycleDates, type DateCycle } from '../calendar/payment-dates.ts';
import type { Ratio } from '../money/ratio.ts';
import { growthOver } from '../rates/compounding.ts';
import type { FundTerms } from './fund-terms.ts';

/** Most deposits that a fund may have. */
export const mostDeposits = 1200;

/** The days that deposits are made on: as agreed, but for those recorded for other days. */
export function depositDays(terms: FundTerms): Int32Array {
  const days = agreedDays(terms);
  for (const { due, on } of terms.made ?? []) {
    const at = days.indexOf(due);
    if (at >= 0) days[at] = on;
  }
  return days;
}

/** The days that deposits are agreed for: the stated or listed ones, or as many as there may be where the count is open. */
export function agreedDays({ deposits, first, every, keepMonthEnd }: FundTerms): Int32Array {
  if (deposits.type === 'listed') return Int32Array.from(deposits.list, ({ on }) => on);
  return cycleDates({ anchor: first, every, keepMonthEnd }, deposits.count ?? mostDeposits);
}

/** The day a fund begins: that of its opening balance, else of its first deposit. */
export function fundStart({ opening, first, deposits, made }: FundTerms): CalendarDay {
  if (opening) return opening.on;
  const agreed = deposits.type === 'listed' ? (deposits.list[0]?.on ?? first) : first;
  return made?.find(({ due }) => due === agreed)?.on ?? agreed;
}

/** The interest period that ends with a deposit, counted from 0; the first has no days without an opening balance. */
export function fundPeriod(terms: FundTerms, days: Int32Array, at: number): InterestPeriod {
  const { every, first, keepMonthEnd, deposits } = terms;
  const cycle: DateCycle = { anchor: first, every, keepMonthEnd };
  const to = days[at] as number;
  const from = at === 0 ? Math.min(fundStart(terms), to) : (days[at - 1] as number);
  // A deposit earns from the day it is made: a period that one of another day begins or ends is its own days long.
  const moved = (terms.made ?? []).some(({ due, on }) => on !== due && (on === from || on === to));
  if (at === 0 || deposits.type === 'listed' || moved) return interestPeriodOf(cycle, from, to);
  return regularPeriod(from, to, { num: 1, den: paymentsPerYear[every] });
}

/** The share of a year from the beginning of a period to one of its days, by the fund's day count. */
export function fundYears({ dayCount }: FundTerms, period: InterestPeriod, to: CalendarDay): Fraction {
  return dayCounts[dayCount].years(period.from, to, period);
}

/** Interest per unit of balance over a share of a year, exact. */
export function fundGrowth({ annualRate, compounding }: FundTerms, years: Fraction): Ratio {
  return growthOver(annualRate, compounding, years);
}
