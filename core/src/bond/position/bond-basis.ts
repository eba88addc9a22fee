import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { dayCounts } from '../../calendar/day-counts/day-counts.ts';
import { addBasis, noBasis, type InterestBasis } from '../../change/interest-basis.ts';
import { minorOf } from '../../money/rounding.ts';
import type { AccrualBasis, BondSchedule } from '../schedule/bond-schedule.ts';
import { yearsWithin } from '../terms/coupon-periods.ts';
import { basisOn } from './bond-position.ts';

/** What the coupon accrued at the end of a day was worked out over: coupon sold with the bond is in it. */
export function bondAccruedBasis(schedule: BondSchedule, on: CalendarDay): InterestBasis {
  const basis = basisOn(schedule, on);
  return basis && on > basis.period.from ? over(schedule, basis, basis.period.from, on) : noBasis;
}

/** What the coupon after one day to the end of another was worked out over: coupon sold with the bond is not in it. */
export function bondInterestBasis(
  schedule: BondSchedule,
  after: CalendarDay,
  through: CalendarDay,
): InterestBasis {
  const { bases, terms } = schedule;
  return bases.reduce((sum, basis, at) => {
    const from = Math.max(after, basis.from, terms.issued);
    const to = Math.min(through, basis.period.to, bases[at + 1]?.from ?? basis.period.to);
    return from < to && basis.carried.face > 0n ? addBasis(sum, over(schedule, basis, from, to)) : sum;
  }, noBasis);
}

/** Days of one coupon period, over which the face stays the same. */
function over(
  { terms }: BondSchedule,
  { period, carried, amounts }: AccrualBasis,
  from: CalendarDay,
  to: CalendarDay,
): InterestBasis {
  const [passed, begun] = [
    yearsWithin(terms, period, period.from, to),
    yearsWithin(terms, period, period.from, from),
  ];
  const years = passed.num / passed.den - (from === period.from ? 0 : begun.num / begun.den);
  const { num, den } = amounts.exactCoupon;
  const coupon = Number(num) / Number(den);
  return {
    days: dayCounts[terms.dayCount].days(from, to, period),
    years,
    balanceYears: minorOf(terms, carried.face) * years,
    rateYears: (Number(terms.couponRate.num) / Number(terms.couponRate.den)) * years,
    interest: coupon * ((years * period.years.den) / period.years.num),
    // Of the coupon, of what had accrued before and of what accrued since.
    rounding: 2 * (terms.rounding.interest === 'unit' ? 10 ** terms.digits : 1),
  };
}
