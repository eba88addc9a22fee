import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { addRatios, multiplyRatios, ratio, type Ratio } from '../../money/ratio.ts';
import type { BondTerms } from './bond-terms.ts';
import type { CouponPeriod } from './coupon-periods.ts';

/** What a bond pays at the end of one coupon period by agreement, per 1 of the face at issue. */
export interface ContractualFlow {
  readonly period: CouponPeriod;
  /** Share of the face that bears coupon in the period. */
  readonly outstanding: Ratio;
  /** Coupon rate × years × outstanding. */
  readonly coupon: Ratio;
  /** Face that falls due with it. */
  readonly principal: Ratio;
}

/** What of a bond's terms its payments depend on. */
export type PayingTerms = Pick<BondTerms, 'couponRate' | 'face' | 'instalments'>;

/** The payments of a bond's coupon periods: coupons on what is outstanding, instalments, and the rest at maturity. */
export function contractualFlows(terms: PayingTerms, periods: readonly CouponPeriod[]): ContractualFlow[] {
  let outstanding = ratio(1n);
  return periods.map((period, at) => {
    const { num, den } = period.years;
    const years = ratio(BigInt(num), BigInt(den));
    const coupon = multiplyRatios(multiplyRatios(terms.couponRate, years), outstanding);
    const principal = at === periods.length - 1 ? outstanding : dueOn(terms, period.to);
    const flow = { period, outstanding, coupon, principal };
    outstanding = addRatios(outstanding, { num: -principal.num, den: principal.den });
    return flow;
  });
}

function dueOn({ face, instalments }: PayingTerms, day: CalendarDay): Ratio {
  const due = instalments.reduce((sum, { on, face: part }) => sum + (on === day ? part : 0), 0);
  return ratio(BigInt(due), BigInt(face));
}
