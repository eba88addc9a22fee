import { formatDay, type CalendarDay } from '../calendar/calendar-day.ts';
import { dayCounts } from '../calendar/day-counts/day-counts.ts';
import { regularPeriod } from '../calendar/interest-period.ts';
import type { Fraction, InterestPeriod } from '../calendar/fraction.ts';
import { paymentsPerYear } from '../calendar/frequency.ts';
import { cycleDate, cycleIndexOnOrAfter, type DateCycle } from '../calendar/payment-dates.ts';
import { TermsFault } from '../terms-fault.ts';
import type { BondTerms } from './bond-terms.ts';

/** One coupon period, with its length in years by the bond's day count. */
export interface CouponPeriod extends InterestPeriod {
  readonly years: Fraction;
}

/** What of a bond's terms its coupon dates depend on. */
export type CouponCycle = Pick<BondTerms, 'issued' | 'matures' | 'every' | 'dayCount' | 'keepMonthEnd'>;

/** Coupon dates, counted back from maturity (index 0). */
function cycleOf(terms: CouponCycle): DateCycle {
  return { anchor: terms.matures, every: terms.every, keepMonthEnd: terms.keepMonthEnd };
}

/**
 * The coupon periods from issue to maturity. Throws {@link TermsFault} when maturity is not a whole number of
 * coupon periods after issue.
 */
export function couponPeriods(terms: CouponCycle): CouponPeriod[] {
  if (terms.matures <= terms.issued) {
    throw new TermsFault(
      'matures',
      `The bond matures on ${formatDay(terms.matures)}, which is not after its issue on ${formatDay(terms.issued)}.`,
    );
  }
  const cycle = cycleOf(terms);
  const first = cycleIndexOnOrAfter(cycle, terms.issued);
  if (cycleDate(cycle, first) !== terms.issued) {
    throw new TermsFault(
      'matures',
      `Counted back from maturity, coupons fall on ${formatDay(cycleDate(cycle, first - 1))} and ` +
        `${formatDay(cycleDate(cycle, first))}, so the issue on ${formatDay(terms.issued)} is not on a coupon date.`,
    );
  }
  return Array.from({ length: -first }, (_, at) =>
    couponPeriod(terms, cycleDate(cycle, first + at), cycleDate(cycle, first + at + 1)),
  );
}

function couponPeriod(terms: CouponCycle, from: CalendarDay, to: CalendarDay): CouponPeriod {
  const period = regularPeriod(from, to, { num: 1, den: couponsPerYear(terms) }, terms.matures);
  return { ...period, years: dayCounts[terms.dayCount].years(from, to, period) };
}

/** The share of a coupon period that has passed on a day, by the bond's own day count; 0 to 1. */
export function shareOfPeriod(terms: CouponCycle, period: CouponPeriod, on: CalendarDay): Fraction {
  const passed = dayCounts[terms.dayCount].years(period.from, on, period);
  return { num: passed.num * period.years.den, den: passed.den * period.years.num };
}

/** Coupons a year. */
export function couponsPerYear(terms: Pick<BondTerms, 'every'>): number {
  return paymentsPerYear[terms.every];
}
