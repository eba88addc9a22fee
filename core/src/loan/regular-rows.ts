import { fastRoundedProduct, type Multiplier } from '../money/rounded-product.ts';
import type { LoanColumns } from './loan-schedule.ts';

/**
 * Fills a run of rows with one payment and one growth, in exact integers without big ones: the loop that
 * makes large portfolios fast. Stops before `end`, or before the row that would clear the loan or would not
 * cover its interest, and leaves those to the general rules. Returns the number of rows written.
 *
 * @param columns filled from `columns.length` on, which is advanced
 * @param dues due date by payment index
 * @param index index of the first payment to write
 * @param end index to stop before
 * @param balance opening balance, minor units, within the multiplier's limit
 */
export function fillRegularRows(
  columns: LoanColumns,
  dues: Int32Array,
  index: number,
  end: number,
  balance: number,
  payment: number,
  growth: Multiplier,
  phase: number,
): number {
  const { n, date, due, opening, interest, principal, closing, phase: phases } = columns;
  const payments = columns.payment;
  const { num, den } = growth;
  let row = columns.length;
  let at = index;
  while (at < end) {
    const charged = fastRoundedProduct(balance, num, den);
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
