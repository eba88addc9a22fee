import type { CalendarDay } from '../../calendar/calendar-day.ts';
import type { LoanSchedule } from '../schedule/loan-schedule.ts';
import { formatPercent } from '../../rates/annual-rate.ts';
import { accruedSegments } from './loan-position.ts';
import type { Count, MinorUnits } from '../../units/units.ts';

/** Days over which a balance bore one rate. */
export interface AccruedOver {
  /** As the day count counts them. */
  readonly days: Count;
  /** Minor units. */
  readonly balance: MinorUnits;
  /** Such as `6.10%`. */
  readonly rate: string;
}

/**
 * What interest has accrued over by a day since it was last charged: each balance and rate with its days.
 *
 * @example
 * accruedOver(loan, day('2025-01-31')).length // 1
 */
export function accruedOver(schedule: LoanSchedule, on: CalendarDay): AccruedOver[] {
  const parts: AccruedOver[] = [];
  for (const { days, balance, annualRate } of accruedSegments(schedule, on)) {
    const part = {
      days,
      balance: Math.round(Number(balance.num) / Number(balance.den)),
      rate: formatPercent(annualRate),
    };
    const last = parts.at(-1);
    if (last && last.balance === part.balance && last.rate === part.rate) {
      parts[parts.length - 1] = { ...last, days: last.days + days };
    } else parts.push(part);
  }
  return parts;
}
