import { addMonths, type CalendarDay } from '../calendar/calendar-day.ts';
import { exactCoupon, roundForBond, type BondRow, type BondSchedule } from '../bond/bond-schedule.ts';
import { shareOfPeriod, type CouponPeriod } from '../bond/coupon-periods.ts';
import type { Fraction } from '../calendar/fraction.ts';
import { multiplyRatios, ratio } from '../money/ratio.ts';
import type { Position } from './position-figures.ts';

/** What has accrued of a coupon period on a day: the coupon, and the discount (or premium) amortized. */
export interface BondAccrual {
  readonly period: CouponPeriod;
  readonly row: BondRow;
  readonly share: Fraction;
  readonly coupon: number;
  readonly amortization: number;
}

/**
 * The accrual inside a coupon period, shared by days of the bond's own day count and rounded once; `undefined`
 * before issue, on coupon dates and after maturity.
 */
export function bondAccrual(schedule: BondSchedule, on: CalendarDay): BondAccrual | undefined {
  const { terms, periods, rows } = schedule;
  const at = periods.findIndex((period) => period.from < on && on < period.to);
  const period = periods[at];
  const row = rows[at + 1];
  if (!period || !row) return undefined;
  const share = shareOfPeriod(terms, period, on);
  const part = ratio(BigInt(share.num), BigInt(share.den));
  return {
    period,
    row,
    share,
    coupon: roundForBond(terms, multiplyRatios(exactCoupon(terms, period), part)),
    amortization: roundForBond(terms, multiplyRatios(ratio(BigInt(row.amortization)), part)),
  };
}

/** The position of a bond on a day. */
export function bondPosition(schedule: BondSchedule, on: CalendarDay): Position {
  const { terms, rows } = schedule;
  const live = on >= terms.issued && on < terms.matures;
  const next = rows.find((row) => row.n > 0 && row.due > on);
  const accrual = bondAccrual(schedule, on);
  const carried = rows.findLast((row) => row.due <= on)?.closing ?? 0;
  const carrying = live ? carried + (accrual?.amortization ?? 0) : 0;
  const outstanding = live ? terms.face : 0;
  const isCurrent = live && terms.matures <= addMonths(on, 12, true);
  const unamortized = outstanding - carrying;
  return {
    on,
    outstanding,
    accruedInterest: accrual?.coupon ?? 0,
    unpaidInterest: 0,
    unamortizedDiscount: Math.max(0, unamortized),
    unamortizedPremium: Math.max(0, -unamortized),
    unamortizedIssueCosts: 0,
    carrying,
    current: isCurrent ? carrying : 0,
    nonCurrent: isCurrent ? 0 : carrying,
    next: next
      ? { due: next.due, payment: next.coupon + (next.due === terms.matures ? terms.face : 0) }
      : null,
  };
}
