import { monthEnd, type CalendarDay } from '../calendar/calendar-day.ts';
import type { Frequency } from '../calendar/frequency.ts';
import { cycleDate, cycleIndexOnOrAfter } from '../calendar/payment-dates.ts';
import { buildFundSchedule } from '../fund/build-fund-schedule.ts';
import type { FundSchedule } from '../fund/fund-schedule.ts';
import type { Ratio } from '../money/ratio.ts';
import type { OutOfReach } from '../loan/plan/plan-loan.ts';
import type { Count, MinorUnits } from '../units/units.ts';

/** How what may not be repaid early is provided for. */
export interface FundRule {
  /** Annual, as a fraction. */
  readonly annualRate: Ratio;
  readonly every: Frequency;
}

/**
 * A fund of level deposits that holds an amount on a day: they fall on the day's own day of the month, the last on the
 * day itself.
 *
 * @param on the day that the plan starts after
 * @param goal minor units
 */
export function planFund(
  { annualRate, every }: FundRule,
  { currency, digits }: { readonly currency: string; readonly digits: Count },
  on: CalendarDay,
  clearBy: CalendarDay,
  goal: MinorUnits,
): FundSchedule | OutOfReach {
  const cycle = { anchor: clearBy, every, keepMonthEnd: clearBy === monthEnd(clearBy) };
  const first = cycleIndexOnOrAfter(cycle, on + 1);
  if (first > 0) return { earliest: cycleDate(cycle, first) };
  return buildFundSchedule({
    kind: 'fund',
    currency,
    digits,
    goal,
    annualRate,
    compounding: 'each-payment',
    dayCount: 'even-periods',
    every,
    first: cycleDate(cycle, first),
    keepMonthEnd: cycle.keepMonthEnd,
    deposits: { type: 'level', count: 1 - first },
    rounding: { interest: 'cent', deposit: 'cent', ties: 'away-from-zero' },
  });
}
