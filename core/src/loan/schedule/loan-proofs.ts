import { grainsOf, toGrains } from '../../money/rounding.ts';
import { ratio } from '../../money/ratio.ts';
import { roundRatio } from '../../money/round-ratio.ts';
import type { Proof } from '../../proofs/proof.ts';
import type { AmountColumn } from './loan-columns.ts';
import { exactInterest } from '../interest/interest-segment.ts';
import { rowSegments } from '../interest/loan-interest.ts';
import { chargesInterest, grainsAt, kindOfRow, type LoanSchedule } from './loan-schedule.ts';

/** The proofs of a loan's schedule, worked out in the amounts it was computed with. */
export function loanProofs(schedule: LoanSchedule): Proof[] {
  const { length, terms } = schedule;
  const grains = grainsOf(terms);
  const amount = BigInt(terms.amount) * grains;
  const broughtIn = BigInt(terms.takenOn?.accruedInterest ?? 0) * grains;
  const sums = { payment: 0n, interest: 0n, principal: 0n, extra: 0n, added: 0n, fee: 0n, drawn: 0n };
  let before = { closing: amount, unpaid: 0n };
  let split = 0n;
  let chain = 0n;
  let replay = 0n;
  let lowest = 0n;
  let firstCharge = true;
  for (let row = 0; row < length; row += 1) {
    const at = (column: AmountColumn): bigint => grainsAt(schedule, column, row);
    for (const column of ['payment', 'interest', 'principal', 'extra', 'added', 'fee'] as const)
      sums[column] += at(column);
    const drawn = kindOfRow(schedule, row) === 'draw' ? at('added') : 0n;
    sums.drawn += drawn;
    const billed = at('interest') + at('fee');
    const interestPaid = billed + before.unpaid - at('unpaid') - (at('added') - drawn);
    split += size(at('payment') - interestPaid - at('principal'));
    chain += size(at('opening') - before.closing);
    chain += size(at('opening') + at('added') - at('principal') - at('extra') - at('closing'));
    if (at('closing') < lowest) lowest = at('closing');
    if (chargesInterest(schedule, row)) {
      const again =
        toGrains(terms, exactInterest(rowSegments(schedule, row))) + (firstCharge ? broughtIn : 0n);
      replay += size(again - at('interest'));
      firstCharge = false;
    }
    before = { closing: at('closing'), unpaid: at('unpaid') };
  }
  const left = before.closing + before.unpaid;
  const minor = (difference: bigint): number =>
    Number(roundRatio(ratio(difference, grains), 'away-from-zero'));
  const proof = (name: string, difference: bigint): Proof => ({
    name,
    holds: difference === 0n,
    difference: minor(difference),
  });
  const paid = sums.payment + sums.extra;
  // Recorded payments can leave the last ones unpaid: what is left must then be just what is in arrears.
  const behind = length > 0 ? grainsAt(schedule, 'principalInArrears', length - 1) : 0n;
  const inArrears = terms.atEnd === 'pay' ? before.unpaid + behind : 0n;
  const open = (terms.atEnd === 'leave' || inArrears > 0n) && schedule.settlement === undefined;
  return [
    ...(open ? [] : [proof('The last closing balance is zero and no interest is left unpaid', left)]),
    ...(inArrears > 0n ? [proof('All that is left after the last row is in arrears', left - inArrears)] : []),
    proof(
      open
        ? 'Principal, extra principal and the balance left sum to the amount borrowed'
        : 'Principal and extra principal sum to the amount borrowed',
      sums.principal + sums.extra + (open ? before.closing : 0n) - amount - sums.added,
    ),
    proof(
      terms.creditLine
        ? 'Each bill paid is interest, fee and principal'
        : 'Each payment is the interest paid plus principal',
      split,
    ),
    proof('Each row opens where the one before it closed', chain),
    proof(
      terms.creditLine
        ? 'Total paid less the amount drawn is the total interest and fees'
        : 'Total paid less the amount borrowed is the total interest',
      paid + (open ? left : 0n) - amount - sums.drawn - sums.interest - sums.fee,
    ),
    proof('Interest worked out again with exact fractions is the same in every row', replay),
    proof('No balance is negative', lowest),
    ...(terms.purchase && !open
      ? [
          proof(
            'Down payment and all payments less the price are the finance cost, the total interest',
            BigInt(terms.purchase.downPayment - terms.purchase.price) * grains +
              paid -
              sums.drawn -
              sums.interest,
          ),
        ]
      : []),
  ];
}

function size(difference: bigint): bigint {
  return difference < 0n ? -difference : difference;
}
