import type { LoanColumns } from '@coffer/core';

/**
 * The same loop as `fillRegularRows` in plain doubles, for comparison only: it rounds a half cent wrongly where
 * balance × rate falls just beside it.
 */
export function fillRowsInDoubles(
  columns: LoanColumns,
  dues: Int32Array,
  index: number,
  end: number,
  balance: number,
  payment: number,
  growth: number,
  phase: number,
): number {
  const { n, date, due, opening, interest, principal, closing, phase: phases } = columns;
  const payments = columns.payment;
  let row = columns.length;
  let at = index;
  while (at < end) {
    const charged = Math.round(balance * growth);
    const repaid = payment - charged;
    if (repaid < 0 || repaid >= balance) break;
    const day = dues[at] as number;
    at += 1;
    n[row] = at;
    date[row] = day;
    due[row] = day;
    opening[row] = balance;
    payments[row] = payment;
    interest[row] = charged;
    principal[row] = repaid;
    balance -= repaid;
    closing[row] = balance;
    phases[row] = phase;
    row += 1;
  }
  columns.length = row;
  return at - index;
}
