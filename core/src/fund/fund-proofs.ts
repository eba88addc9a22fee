import { decimalOf } from '../money/precise.ts';
import { roundedDecimal } from '../money/rounded-decimal.ts';
import { exactProof, type Proof } from '../proofs/proof.ts';
import { growthsAt } from '../rates/growths-at.ts';
import { fundYears } from './fund-periods.ts';
import { fundHeld, fundTotal, type FundSchedule } from './fund-schedule.ts';

/** What must be true of a fund's schedule, each figure added or worked out another way. */
export function fundProofs(schedule: FundSchedule): Proof[] {
  const { terms, rows, notices } = schedule;
  const held = fundHeld(schedule);
  const opened = terms.opening?.amount ?? 0;
  const chained = rows.reduce(
    (off, row, at) => off + Math.abs(row.opening - (at === 0 ? opened : (rows[at - 1]?.closing ?? 0))),
    0,
  );
  const carried = rows.reduce(
    (off, { opening, interest, deposit, closing }) => off + Math.abs(opening + interest + deposit - closing),
    0,
  );
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
      opened + fundTotal(schedule, 'deposit') + fundTotal(schedule, 'interest') - held,
    ),
    exactProof('Each row opens where the one before it closed', chained),
    exactProof('Opening, interest and deposit make each closing', carried),
    exactProof('Interest worked out again in decimals is the same in every row', interestOff(schedule)),
    exactProof(
      'No deposit is below zero',
      rows.reduce((off, { deposit }) => off + Math.max(0, -deposit), 0),
    ),
  ];
}

/** Interest of every row again, in decimals and not in fractions. */
function interestOff({ terms, rows }: FundSchedule): number {
  const step = terms.rounding.interest === 'unit' ? 10 ** terms.digits : 1;
  const growthOf = growthsAt(decimalOf(terms.annualRate), terms.compounding);
  return rows.reduce((off, row) => {
    const growth = growthOf(fundYears(terms, row.period, row.due));
    const interest = roundedDecimal(growth.times(row.earning).div(step), terms.rounding.ties);
    return off + Math.abs(interest.times(step).toNumber() - row.interest);
  }, 0);
}
