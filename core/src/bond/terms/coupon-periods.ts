import { formatDay, type CalendarDay } from '../../calendar/calendar-day.ts';
import { dayCounts } from '../../calendar/day-counts/day-counts.ts';
import type { Fraction } from '../../calendar/fraction.ts';
import type { InterestPeriod } from '../../calendar/interest-period.ts';
import { paymentsPerYear } from '../../calendar/frequency.ts';
import { interestPeriodOf, lastPeriodOf, regularPeriod } from '../../calendar/interest-period.ts';
import { cycleDate, cycleIndexOnOrAfter, type DateCycle } from '../../calendar/payment-dates.ts';
import { TermsFault } from '../../faults/terms-fault.ts';
import type { BondTerms } from './bond-terms.ts';

/** One coupon period, with its length in years by the bond's day count. */
export interface CouponPeriod extends InterestPeriod {
  readonly years: Fraction;
}

/** What of a bond's terms its coupon dates depend on. */
export type CouponCycle = Pick<
  BondTerms,
  'dated' | 'matures' | 'every' | 'dayCount' | 'keepMonthEnd' | 'zeroCoupon' | 'firstCoupon' | 'lastCoupon'
>;

/** The most coupon periods a bond may have: a hundred years of monthly ones. */
const mostPeriods = 1200;

/**
 * The coupon periods from the dated date to maturity, counted back from maturity (or from the last regular coupon
 * date where the last period is odd). Throws {@link TermsFault} when a first period is odd and not stated, or a
 * stated date is not on the cycle.
 */
export function couponPeriods(terms: CouponCycle): CouponPeriod[] {
  const { dated, matures, lastCoupon } = terms;
  if (matures <= dated) {
    throw new TermsFault(
      'matures',
      `The bond matures on ${formatDay(matures)}, which is not after ${formatDay(dated)}, when it begins.`,
    );
  }
  const cycle = { anchor: lastCoupon ?? matures, every: terms.every, keepMonthEnd: terms.keepMonthEnd };
  if (lastCoupon !== undefined && (lastCoupon >= matures || lastCoupon <= dated)) {
    throw new TermsFault(
      'coupon.last',
      `The last coupon before maturity, ${formatDay(lastCoupon)}, must lie between ${formatDay(dated)} and ` +
        `${formatDay(matures)}.`,
    );
  }
  const first = firstIndex(terms, cycle);
  const count = 1 - first + (lastCoupon === undefined ? 0 : 1);
  if (count > mostPeriods) {
    throw new TermsFault('matures', `Up to ${mostPeriods} coupon periods are kept; this bond has ${count}.`);
  }
  const periods = Array.from({ length: 1 - first }, (_, at) => {
    const to = cycleDate(cycle, first + at);
    const from = at === 0 ? dated : cycleDate(cycle, first + at - 1);
    const before = cycleDate(cycle, first + at - 1);
    if (from === before)
      return regularPeriod(from, to, { num: 1, den: paymentsPerYear[terms.every] }, matures);
    return interestPeriodOf(cycle, from, to, matures);
  });
  if (lastCoupon !== undefined) periods.push(lastPeriodOf(cycle, lastCoupon, matures, matures));
  return periods.map((period) => ({
    ...period,
    years: dayCounts[terms.dayCount].years(period.from, period.to, period),
  }));
}

/** The place on the cycle of the first coupon date. */
function firstIndex(terms: CouponCycle, cycle: DateCycle): number {
  const { dated, firstCoupon } = terms;
  const next = cycleIndexOnOrAfter(cycle, dated + 1);
  if (firstCoupon === undefined) {
    const onCycle = cycleDate(cycle, next - 1) === dated;
    if (!onCycle && !terms.zeroCoupon) {
      throw new TermsFault(
        'matures',
        `Counted back from maturity coupons fall on ${formatDay(cycleDate(cycle, next - 1))} and ` +
          `${formatDay(cycleDate(cycle, next))}; ${formatDay(dated)} is not on a coupon date. Change a date, or ` +
          'state the first coupon.',
      );
    }
    return next;
  }
  const at = cycleIndexOnOrAfter(cycle, firstCoupon);
  if (firstCoupon <= dated || at > 0) {
    throw new TermsFault(
      'coupon.first',
      `The first coupon, ${formatDay(firstCoupon)}, must come after ${formatDay(dated)} and by ` +
        `${formatDay(cycle.anchor)}.`,
    );
  }
  if (cycleDate(cycle, at) !== firstCoupon) {
    throw new TermsFault(
      'coupon.first',
      `Counted back from ${terms.lastCoupon === undefined ? 'maturity' : 'the last coupon'}, coupons fall on ` +
        `${formatDay(cycleDate(cycle, at - 1))} and ${formatDay(cycleDate(cycle, at))}, not on ` +
        `${formatDay(firstCoupon)}.`,
    );
  }
  return at;
}

/** Of coupon periods, those that are not over by a day: the first may have begun before it. */
export function periodsAfter(periods: readonly CouponPeriod[], day: CalendarDay): CouponPeriod[] {
  return periods.filter(({ to }) => to > day);
}

/** The part of a coupon period from one day to another, in years by the bond's day count; the parts make the whole. */
export function yearsWithin(
  terms: Pick<BondTerms, 'dayCount'>,
  period: CouponPeriod,
  from: CalendarDay,
  to: CalendarDay,
): Fraction {
  return dayCounts[terms.dayCount].years(from, to, period);
}

/** Coupons a year. */
export function couponsPerYear(terms: Pick<BondTerms, 'every'>): number {
  return paymentsPerYear[terms.every];
}
