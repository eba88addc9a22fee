import { bondTotalOf } from '../../explain/explain-total.ts';
import type { BondRow, BondSchedule } from '../schedule/bond-schedule.ts';
import type { Call, EarlyRedemption } from '../terms/bond-terms.ts';
import { buildBondSchedule } from '../schedule/bond-walk.ts';
import type { CalendarDay } from '../../calendar/calendar-day.ts';
import type { MinorUnits } from '../../units/units.ts';

/** What redeeming face before maturity does. Minor units. */
export interface RedemptionOutcome {
  readonly schedule: BondSchedule;
  /** The row of the redemption: what is retired and paid, the gain or loss, the coupon paid with it. */
  readonly row: BondRow;
  /** Price and coupon together. */
  readonly cash: MinorUnits;
  /** Coupons that are no longer paid after the day. */
  readonly couponsSpared: MinorUnits;
  /** Interest expense that is no longer charged after the day. */
  readonly expenseSpared: MinorUnits;
}

/**
 * A redemption tried: the bond with it beside the bond without. Throws {@link TermsFault} as scheduling does, for more
 * than is outstanding and for a day outside the bond's life.
 *
 * @example
 * redemptionOutcome(bond, { on: day('2026-01-01'), face: 10_000_000, price: percent('101') }).cash // 10_100_000
 */
export function redemptionOutcome(
  before: BondSchedule,
  redemption: Omit<EarlyRedemption, 'at'>,
): RedemptionOutcome {
  const at = before.terms.redemptions.length + before.terms.instalments.length;
  const tried = { ...redemption, at };
  const redemptions = [...before.terms.redemptions, tried].sort((a, b) => a.on - b.on);
  const schedule = buildBondSchedule({ ...before.terms, redemptions });
  const row = schedule.rows.find((each) => each.redemption === at) as BondRow;
  return {
    schedule,
    row,
    cash: row.paid + row.coupon,
    couponsSpared: bondTotalOf(before, 'coupon') - bondTotalOf(schedule, 'coupon'),
    expenseSpared: bondTotalOf(before, 'expense') - bondTotalOf(schedule, 'expense'),
  };
}

/**
 * The call that may be used on a day; `undefined` where none has begun.
 *
 * @example
 * callOn([{ from: day('2027-01-01'), price: percent('102') }], day('2027-06-30')).price // { num: 51n, den: 50n }
 */
export function callOn(calls: readonly Call[], on: CalendarDay): Call | undefined {
  return calls.findLast(({ from }) => from <= on);
}
