import type { CalendarDay } from '../calendar/calendar-day.ts';
import type { Schedule } from '../instrument/instrument.ts';
import { amortizedCosts } from '../loan/costs/issue-costs.ts';
import { bondAccrual } from './bond-position.ts';

/**
 * Discount and issue costs amortized (a premium is negative) after one day up to the end of another, minor units.
 * What a redemption writes off is gain or loss and not in it. Over adjoining stretches it sums to the whole.
 */
export function amortizedBetween(schedule: Schedule, after: CalendarDay, through: CalendarDay): number {
  return amortizedThrough(schedule, through) - amortizedThrough(schedule, after);
}

/** Discount and issue costs amortized from the beginning to the end of a day. */
export function amortizedThrough(schedule: Schedule, on: CalendarDay): number {
  if (schedule.kind === 'loan') return amortizedCosts(schedule, on);
  const accrual = bondAccrual(schedule, on);
  const ofRows = schedule.rows.reduce(
    (sum, { due, booked }) => sum + (due <= on ? booked.discount + booked.costs : 0),
    0,
  );
  return ofRows + (accrual ? accrual.discount + accrual.costs : 0);
}
