import type { MinorUnits } from '../../units/units.ts';
import { exactProof, type Proof } from '../../proofs/proof.ts';
import type { BudgetOutcome } from './budget.ts';

/**
 * That what is paid is what was owed, with interest and without what is left; and that the budget is cash: what is there at
 * the end of each month is what came in less what was paid, and never below zero.
 *
 * @example
 * budgetProofs(outcome, 20_000).every(({ holds }) => holds) // true
 */
export function budgetProofs(
  { members, months, interest, paid, left }: BudgetOutcome,
  monthly: MinorUnits,
): Proof[] {
  const owed = members.reduce((sum, { balance, unpaid }) => sum + balance + unpaid, 0);
  const rows = members.flatMap((member) => member.rows);
  const drawn = rows.reduce((sum, row) => sum + row.drawn, 0);
  // By day, and not month by month as the account is kept.
  const off = months.map(({ month, cash }, at) => {
    const until = rows.reduce((sum, row) => sum + (row.on <= month ? row.paid : 0), 0);
    return cash - (monthly * (at + 1) - until);
  });
  return [
    exactProof(
      'Budget: paid − owed at the beginning − draws since = interest − left',
      paid - owed - drawn - (interest - left),
    ),
    exactProof(
      'Budget: cash at each month’s end = budget × months − paid',
      off.reduce((sum, each) => sum + Math.abs(each), 0),
    ),
    exactProof(
      'Budget: cash is never below zero',
      months.reduce((sum, { cash }) => sum + Math.min(0, cash), 0),
    ),
  ];
}
