import { factsByKey } from '../../facts/facts.ts';
import { minorOf } from '../../money/rounding.ts';
import { kindOfRow, type LoanSchedule } from '../schedule/loan-schedule.ts';

const bookedOf = factsByKey<object, Float64Array>();

/**
 * Interest as the books can carry it, minor units, one element a row: the column itself, or (where nothing is rounded)
 * what the cash paid to date, rounded, leaves for it once the rounded balances have taken theirs. So cash is what was
 * paid, the balances are those that are shown, and interest takes the rounding; summed over all rows it is the total
 * of the schedule.
 */
export function bookedInterest(schedule: LoanSchedule): Float64Array {
  const { exact, interest } = schedule;
  if (!exact) return interest;
  return bookedOf(exact, 'interest', () => booked(schedule, exact));
}

function booked(schedule: LoanSchedule, exact: NonNullable<LoanSchedule['exact']>): Float64Array {
  const { length, terms } = schedule;
  const interest = new Float64Array(length);
  const at = (column: Float64Array, row: number): number => column[row] as number;
  let paid = 0n;
  let [added, fees, before] = [0, 0, 0];
  for (let row = 0; row < length; row += 1) {
    paid += (exact.payment[row] as bigint) + (exact.extra[row] as bigint);
    if (kindOfRow(schedule, row) === 'draw') added += at(schedule.added, row);
    fees += at(schedule.fee, row);
    const overpaid = exact.overpaid[row] as bigint;
    const cash = minorOf(terms, paid + overpaid) - at(schedule.overpaid, row);
    const repaid = terms.amount + added - at(schedule.closing, row);
    const through = cash - repaid + at(schedule.unpaid, row) - fees;
    interest[row] = through - before;
    before = through;
  }
  return interest;
}
