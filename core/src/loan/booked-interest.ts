import type { LoanSchedule } from './loan-schedule.ts';
import { minorUnits } from './loan-terms.ts';

const bookedOf = new WeakMap<object, Float64Array>();

/**
 * Interest as the books can carry it, minor units, one element a row: the column itself, or (where nothing is
 * rounded) what the unrounded interest to date, rounded, has grown by. Summed over rows it never drifts from the
 * unrounded total by more than half a minor unit.
 */
export function bookedInterest(schedule: LoanSchedule): Float64Array {
  const { exact, length, terms, interest } = schedule;
  if (!exact) return interest;
  const known = bookedOf.get(exact);
  if (known) return known;
  const booked = new Float64Array(length);
  let sum = 0n;
  let before = 0;
  for (let row = 0; row < length; row += 1) {
    sum += exact.interest[row] as bigint;
    const through = minorUnits(terms, sum);
    booked[row] = through - before;
    before = through;
  }
  bookedOf.set(exact, booked);
  return booked;
}
