import { exactProof, sumColumn, type Proof } from '../proofs/proof.ts';
import { interestOf, rowSegments } from './loan-interest.ts';
import type { LoanSchedule } from './loan-schedule.ts';

/** The proofs of a loan's schedule. */
export function loanProofs(schedule: LoanSchedule): Proof[] {
  const { length, terms } = schedule;
  const column = (name: 'payment' | 'interest' | 'principal' | 'extra'): number =>
    sumColumn(schedule[name], length);
  const at = (values: Float64Array, row: number): number => values[row] as number;
  const lastClosing = at(schedule.closing, length - 1);
  const lastUnpaid = at(schedule.unpaid, length - 1);
  let split = 0;
  let chain = 0;
  let replay = 0;
  let lowest = 0;
  for (let row = 0; row < length; row += 1) {
    const unpaidBefore = row === 0 ? 0 : at(schedule.unpaid, row - 1);
    const interestPaid = at(schedule.interest, row) + unpaidBefore - at(schedule.unpaid, row);
    split += Math.abs(at(schedule.payment, row) - interestPaid - at(schedule.principal, row));
    const openingDue = row === 0 ? terms.amount : at(schedule.closing, row - 1);
    const repaid = at(schedule.principal, row) + at(schedule.extra, row);
    chain += Math.abs(at(schedule.opening, row) - openingDue);
    chain += Math.abs(at(schedule.opening, row) - repaid - at(schedule.closing, row));
    lowest = Math.min(lowest, at(schedule.closing, row));
    if ((schedule.n[row] as number) > 0) {
      const again = interestOf(terms, rowSegments(schedule, row)).rounded;
      replay += Math.abs(again - at(schedule.interest, row));
    }
  }
  const totalPaid = column('payment') + column('extra');
  return [
    exactProof('The last closing balance is zero and no interest is left unpaid', lastClosing + lastUnpaid),
    exactProof(
      'Principal and extra principal sum to the amount borrowed',
      column('principal') + column('extra') - terms.amount,
    ),
    exactProof('Each payment is the interest paid plus principal', split),
    exactProof('Each row opens where the one before it closed', chain),
    exactProof(
      'Total paid less the amount borrowed is the total interest',
      totalPaid - terms.amount - column('interest'),
    ),
    exactProof('Interest worked out again with exact fractions is the same in every row', replay),
    exactProof('No balance is negative', lowest),
  ];
}
