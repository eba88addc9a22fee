import { minorOf, partOf, toGrains } from '../../money/rounding.ts';
import { addMonths, type CalendarDay } from '../../calendar/calendar-day.ts';
import {
  amortizedShare,
  shareOfPeriod,
  type AccrualBasis,
  type BondSchedule,
} from '../schedule/bond-schedule.ts';
import type { BondTerms } from '../terms/bond-terms.ts';
import type { Fraction } from '../../calendar/fraction.ts';
import { multiplyRatios, ratio, type Ratio } from '../../money/ratio.ts';
import { classificationOn } from '../../position/classification.ts';
import type { Position } from '../../position/position-figures.ts';

/** What has accrued of a coupon period on a day. Minor units. */
export interface BondAccrual {
  readonly basis: AccrualBasis;
  /** Share of the coupon that has accrued. */
  readonly share: Fraction;
  readonly coupon: number;
  /** The part of that coupon that came in with the proceeds and is no expense. */
  readonly received: number;
  /** Share of the amortization, counted from the issue where that fell in the period. */
  readonly amortizedShare: Ratio;
  readonly discount: number;
  readonly costs: number;
}

/** What holds on a day: the basis of its coupon period; `undefined` before the issue and once nothing is left. */
export function basisOn(schedule: BondSchedule, on: CalendarDay): AccrualBasis | undefined {
  const basis = schedule.bases.findLast(({ from }) => from <= on);
  return basis && on < basis.period.to && basis.carried.face > 0n ? basis : undefined;
}

/**
 * The accrual inside a coupon period, shared by days of the bond's own day count and rounded once; `undefined`
 * before issue, on coupon dates and after the end.
 */
export function bondAccrual(schedule: BondSchedule, on: CalendarDay): BondAccrual | undefined {
  const { terms } = schedule;
  const basis = basisOn(schedule, on);
  if (!basis || on <= basis.period.from) return undefined;
  const { carried, amounts, period } = basis;
  const share = shareOfPeriod(terms, period, on);
  const passed = amortizedShare(terms, period, on);
  const coupon = multiplyRatios(amounts.exactCoupon, ratio(BigInt(share.num), BigInt(share.den)));
  const amortized = (of: 'discount' | 'costs'): number =>
    minorOf(terms, carried[of]) - minorOf(terms, carried[of] - partOf(terms, amounts[of], passed));
  return {
    basis,
    share,
    coupon: minorOf(terms, toGrains(terms, coupon)),
    received: minorOf(terms, carried.received),
    amortizedShare: passed,
    discount: amortized('discount'),
    costs: amortized('costs'),
  };
}

/** The position of a bond on a day. */
export function bondPosition(schedule: BondSchedule, on: CalendarDay): Position {
  const { terms } = schedule;
  const basis = basisOn(schedule, on);
  const accrual = bondAccrual(schedule, on);
  const minor = (grains: bigint | undefined): number => minorOf(terms, grains ?? 0n);
  const outstanding = minor(basis?.carried.face);
  const discount = minor(basis?.carried.discount) - (accrual?.discount ?? 0);
  const costs = minor(basis?.carried.costs) - (accrual?.costs ?? 0);
  const carrying = outstanding - discount - costs;
  const current = currentPortion(schedule, on, outstanding, carrying);
  return {
    on,
    outstanding,
    accruedInterest: accrual?.coupon ?? 0,
    accruedFee: 0,
    unpaidInterest: 0,
    deferredInterest: 0,
    unamortizedDiscount: Math.max(0, discount),
    unamortizedPremium: Math.max(0, -discount),
    unamortizedIssueCosts: costs,
    deferredCosts: 0,
    overpaid: 0,
    carrying,
    current,
    nonCurrent: carrying - current,
    next: basis ? nextPayment(terms, basis) : null,
  };
}

/** The coupon that is accruing with the face due on its day, or the next face due; as it is agreed on the day. */
function nextPayment(terms: BondTerms, { period, amounts, dues }: AccrualBasis): Position['next'] {
  const coupon = minorOf(terms, toGrains(terms, amounts.exactCoupon));
  const due = coupon > 0 ? period.to : dues.find(({ face }) => face > 0)?.on;
  if (due === undefined) return null;
  const face = dues.reduce((sum, each) => sum + (each.on === due ? each.face : 0), 0);
  return { due, payment: coupon + face };
}

/** Face that falls due by agreement, as known on a day, after it to the end of another. Minor units. */
export function faceDue(schedule: BondSchedule, on: CalendarDay, to: CalendarDay): number {
  const dues = basisOn(schedule, on)?.dues ?? [];
  return dues.reduce((sum, due) => sum + (due.on > on && due.on <= to ? due.face : 0), 0);
}

/**
 * What is due within twelve months: the carrying amount where all falls due in them; of instalments the face due,
 * less its share of what is unamortized (or with its share of a premium). A presentation stated for the day replaces
 * it. Source: IAS 1.69–76; ASC 470-10-45.
 */
function currentPortion(
  schedule: BondSchedule,
  on: CalendarDay,
  outstanding: number,
  carrying: number,
): number {
  if (outstanding === 0) return 0;
  const stated = classificationOn(schedule.terms.events, on);
  if (stated) return stated.as === 'current' ? carrying : 0;
  const due = faceDue(schedule, on, addMonths(on, 12, true));
  const unamortized = ratio(BigInt(outstanding - carrying), BigInt(outstanding));
  const share = multiplyRatios(unamortized, ratio(BigInt(due)));
  return due === outstanding ? carrying : due - minorOf(schedule.terms, toGrains(schedule.terms, share));
}
