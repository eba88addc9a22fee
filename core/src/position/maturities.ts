import { addMonths, type CalendarDay } from '../calendar/calendar-day.ts';
import type { Schedule } from '../instrument/instrument.ts';
import { asKnownOn } from '../loan/as-known-on.ts';
import { position } from './position.ts';

/** How many single years the amounts due are shown for before all later ones together. */
export const yearsApart = 5;

/**
 * Principal (or face) due in each of the five years after a day, and later, minor units; what is in arrears
 * counts as due in the first. Source: ASC 470-10-50-1; IFRS 7.39 and B11.
 */
export function maturities(schedule: Schedule, on: CalendarDay): number[] {
  const due = new Array<number>(yearsApart + 1).fill(0);
  const { outstanding } = position(schedule, on);
  if (outstanding === 0) return due;
  const ends = Array.from({ length: yearsApart }, (_, year) => addMonths(on, 12 * (year + 1), true));
  const yearOf = (day: CalendarDay): number => {
    const year = ends.findIndex((end) => day <= end);
    return year < 0 ? yearsApart : year;
  };
  const add = (year: number, amount: number): void => {
    due[year] = (due[year] as number) + amount;
  };
  if (schedule.kind === 'bond') {
    add(yearOf(schedule.terms.matures), schedule.terms.face);
    return due;
  }
  const contractual = asKnownOn(schedule, on);
  let left = outstanding;
  let last = on + 1;
  for (let row = 0; row < contractual.length; row += 1) {
    const day = contractual.date[row] as number;
    if (day <= on) continue;
    // Interest that joins the balance later is repaid too, but is not owed yet.
    const repaid = Math.min(
      left,
      (contractual.principal[row] as number) + (contractual.extra[row] as number),
    );
    add(yearOf(day), repaid);
    left -= repaid;
    last = day;
  }
  add(yearOf(last), left);
  return due;
}
