import { minorOf } from '../../money/rounding.ts';
import { sumColumn } from '../../proofs/proof.ts';
import type { AmountColumn } from './loan-columns.ts';
import { kindOfRow, type LoanSchedule } from './loan-schedule.ts';
import type { Count, MinorUnits } from '../../units/units.ts';

/**
 * The sum of a column over rows `from` to `end` (not included), minor units; where nothing is rounded, the unrounded
 * amounts are summed and the sum is rounded.
 *
 * @example
 * totalOf(loan, 'interest') // 6_619
 */
export function totalOf(
  schedule: LoanSchedule,
  column: AmountColumn,
  from = 0,
  end = schedule.length,
): MinorUnits {
  const { exact, terms } = schedule;
  if (!exact) return sumColumn(schedule[column].subarray(from), end - from);
  const sum = exact[column].slice(from, end).reduce((total, amount) => total + amount, 0n);
  return minorOf(terms, sum);
}

/**
 * Numbered rows from `from` to `end` (not included) in which something is paid: not those of a deferral.
 *
 * @example
 * paymentsMade(loan) // 12
 */
export function paymentsMade(schedule: LoanSchedule, from = 0, end = schedule.length): Count {
  const { n, payment, extra } = schedule;
  let made = 0;
  for (let row = from; row < end; row += 1) {
    if ((n[row] as number) > 0 && (payment[row] as number) + (extra[row] as number) > 0) made += 1;
  }
  return made;
}

/**
 * What was drawn after the start, minor units.
 *
 * @example
 * totalDrawn(loan) // 0
 */
export function totalDrawn(schedule: LoanSchedule): MinorUnits {
  let sum = 0;
  for (let row = 0; row < schedule.length; row += 1) {
    if (kindOfRow(schedule, row) === 'draw') sum += schedule.added[row] as number;
  }
  return sum;
}
