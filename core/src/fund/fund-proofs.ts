import { grainsOf, minorOf } from '../money/rounding.ts';
import { decimalOf } from '../money/precise.ts';
import { roundedDecimal } from '../money/rounded-decimal.ts';
import { exactProof, type Proof } from '../proofs/proof.ts';
import { growthsAt } from '../rates/growths-at.ts';
import { interestGrains } from '../money/rounding.ts';
import { fundYears } from './fund-periods.ts';
import { fundHeld, type FundRow, type FundSchedule } from './fund-schedule.ts';

/**
 * What must be true of a fund's schedule, each figure added or worked out another way.
 *
 * @example
 * fundProofs(fund).every(({ holds }) => holds) // true
 */
export function fundProofs(schedule: FundSchedule): Proof[] {
  const { terms, rows, notices } = schedule;
  const held = fundHeld(schedule);
  const opened = terms.opening?.amount ?? 0;
  const grains = grainsOf(terms);
  const off = (difference: (row: FundRow, at: number) => bigint): number => {
    const sum = rows.reduce((total, row, at) => total + size(difference(row, at)), 0n);
    return sum === 0n ? 0 : Math.max(1, minorOf(terms, sum));
  };
  const before = (at: number): bigint => rows[at - 1]?.exact.closing ?? BigInt(opened) * grains;
  const chained = off(({ exact }, at) => exact.opening - before(at));
  const carried = off(({ exact }) => exact.opening + exact.interest + exact.deposit - exact.closing);
  const expected = notices.reduce((sum, notice) => {
    if (notice.kind === 'short') return sum - notice.amount;
    return notice.kind === 'passed-by-interest' ? sum + notice.amount : sum;
  }, terms.goal ?? held);
  return [
    ...(terms.goal === undefined
      ? []
      : [exactProof('The fund ends on its goal, or off it by what the notice says', held - expected)]),
    exactProof(
      'What was there, deposits and interest sum to what the fund holds',
      minorOf(
        terms,
        rows.reduce((sum, { exact }) => sum + exact.deposit + exact.interest, BigInt(opened - held) * grains),
      ),
    ),
    exactProof('Each row opens where the one before it closed', chained),
    exactProof('Opening, interest and deposit make each closing', carried),
    exactProof('Interest worked out again in decimals is the same in every row', interestOff(schedule)),
    exactProof(
      'Each amount shown is the one computed with, rounded for showing at most',
      off((row) =>
        figures.reduce<bigint>(
          (sum, of) => sum + size(BigInt(row[of] - minorOf(terms, row.exact[of]))) * grains,
          0n,
        ),
      ),
    ),
    exactProof(
      'No deposit is below zero',
      rows.reduce((off, { deposit }) => off + Math.max(0, -deposit), 0),
    ),
  ];
}

const figures = ['opening', 'interest', 'deposit', 'closing'] as const;

/** Interest of every row again, in decimals and not in fractions. */
function interestOff({ terms, rows }: FundSchedule): number {
  const step = interestGrains(terms).toString();
  const growthOf = growthsAt(decimalOf(terms.annualRate), terms.compounding);
  const off = rows.reduce((sum, { exact, period, due }) => {
    const growth = growthOf(fundYears(terms, period, due));
    const interest = roundedDecimal(growth.times(exact.earning.toString()).div(step), terms.rounding.ties);
    return sum + size(BigInt(interest.times(step).toFixed(0)) - exact.interest);
  }, 0n);
  return off === 0n ? 0 : Math.max(1, minorOf(terms, off));
}

function size(difference: bigint): bigint {
  return difference < 0n ? -difference : difference;
}
