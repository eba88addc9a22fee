import type { CalendarDay } from '../calendar/calendar-day.ts';
import type { Schedule } from '../instrument/instrument.ts';
import { bookedInterest } from '../loan/booked-interest.ts';
import { amortizedThrough } from './amortized.ts';
import { bondAccrual } from './bond-position.ts';
import { position } from './position.ts';

/**
 * Interest expense after one day up to the end of another, in minor units: the expense of rows dated in
 * between, plus what has accrued at the end, less what had accrued at the start. Over adjoining stretches it
 * sums to the schedule's total.
 */
export function interestExpense(schedule: Schedule, after: CalendarDay, through: CalendarDay): number {
  return cumulative(schedule, through) - cumulative(schedule, after);
}

function cumulative(schedule: Schedule, on: CalendarDay): number {
  if (schedule.kind === 'bond') {
    const accrual = bondAccrual(schedule, on);
    const ofRows = schedule.rows.reduce(
      (sum, { due, booked }) => sum + (due <= on ? booked.coupon - booked.received : 0),
      0,
    );
    const accrued = accrual ? accrual.coupon - accrual.received : 0;
    return ofRows + accrued + amortizedThrough(schedule, on);
  }
  const booked = bookedInterest(schedule);
  let ofRows = 0;
  for (let row = 0; row < schedule.length && (schedule.date[row] as number) <= on; row += 1) {
    ofRows += booked[row] as number;
  }
  // What had accrued before a loan was taken on was another period's expense.
  const before = on >= schedule.terms.start ? (schedule.terms.takenOn?.accruedInterest ?? 0) : 0;
  return ofRows + position(schedule, on).accruedInterest - before + amortizedThrough(schedule, on);
}
