import { addMonths, type CalendarDay } from '../calendar/calendar-day.ts';
import { debtKindOf } from '../kinds/kinds.ts';
import type { Schedule } from '../kinds/schedules.ts';
import { classificationOn } from './classification.ts';
import { position } from './position.ts';
import type { MinorUnits } from '../units/units.ts';

/** How many single years the amounts due are shown for before all later ones together. */
export const yearsApart = 5;

/**
 * Principal (or face) due in each of the five years after a day, and later, minor units; what is in arrears
 * counts as due in the first. Source: ASC 470-10-50-1; IFRS 7.39 and B11.
 *
 * @example
 * maturities(loan, day('2025-06-30')) // [ 59_779, 0, 0, 0, 0, 0 ]
 */
export function maturities(schedule: Schedule, on: CalendarDay): MinorUnits[] {
  const due = new Array<number>(yearsApart + 1).fill(0);
  const { outstanding } = position(schedule, on);
  if (outstanding === 0) return due;
  const ends = Array.from({ length: yearsApart }, (_, year) => addMonths(on, 12 * (year + 1), true));
  // What can be called on demand, or is in breach, counts when it can first be asked for (IFRS 7.B11C(a)).
  const kind = debtKindOf(schedule);
  if (kind.onDemand(schedule) || classificationOn(schedule.terms.events, on)?.as === 'current') {
    due[0] = outstanding;
    return due;
  }
  const dueBy = kind.fallingDue(schedule, on);
  let before = 0;
  ends.forEach((end, year) => {
    const by = Math.max(before, dueBy(end));
    due[year] = by - before;
    before = by;
  });
  due[yearsApart] = outstanding - before;
  return due;
}
