import { fastRoundedProduct, type Multiplier } from '../money/rounded-product.ts';
import type { LoanColumns } from './loan-schedule.ts';

/**
 * Fills a run of rows with one payment, in exact integers without big ones: the loop that makes large
 * portfolios fast. Stops before `end`, or before the row that would clear the loan, would not cover its interest
 * or is out of the exact range, and leaves that to the general rules. Returns the number of rows written.
 *
 * @param columns filled from `columns.length` on, which is advanced
 * @param dues due date by payment index
 * @param index index of the first payment to write
 * @param end index to stop before
 * @param balance opening balance, minor units
 * @param growthOf growth over the period that ends with the payment of an index
 */
export function fillRegularRows(
  columns: LoanColumns,
  dues: Int32Array,
  index: number,
  end: number,
  balance: number,
  payment: number,
  growthOf: (index: number) => Multiplier,
  phase: number,
): number {
  const { n, date, due, opening, interest, principal, closing, phase: phases } = columns;
  const payments = columns.payment;
  let row = columns.length;
  let at = index;
  while (at < end) {
    const growth = growthOf(at);
    if (!growth.fast || balance > growth.amountLimit) break;
    const charged = fastRoundedProduct(balance, growth.num, growth.den);
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
