import { fastRoundedProduct, roundedProduct, type Multiplier } from '../money/rounded-product.ts';
import type { Ties } from '../money/round-ratio.ts';
import type { FillingColumns } from './loan-columns.ts';

/** What stays the same over a run of rows. Amounts in minor units. */
export interface RegularRun {
  readonly dues: Int32Array;
  /** Places in `dues` of the first payment to write and of the one to stop before. */
  readonly from: number;
  readonly end: number;
  /** Number of the first payment. */
  readonly number: number;
  /** A level or fixed payment, the principal of each payment, or nothing but interest. */
  readonly kind: 'payment' | 'principal' | 'interest';
  readonly amount: number;
  /** Growth per rounding step over the period that ends with a payment. */
  readonly growthOf: (at: number) => Multiplier;
  /** Minor units that interest is rounded to. */
  readonly step: number;
  readonly ties: Ties;
  readonly setting: number;
}

/**
 * Fills a run of rows of one kind, in exact integers without big ones wherever plain numbers settle the rounding:
 * the loop that makes large portfolios fast. Stops before `end`, or before the row that would clear the loan, would
 * not cover its interest or is out of the exact range, and leaves that to the general rules. Returns the number of
 * rows written.
 *
 * @param columns filled from `columns.length` on, which is advanced
 * @param balance opening balance, minor units
 */
export function fillRegularRows(columns: FillingColumns, run: RegularRun, balance: number): number {
  const { dues, end, amount, growthOf, step, ties, setting } = run;
  const fixed = run.kind === 'payment';
  const whole = step === 1 && ties === 'away-from-zero';
  columns.reserve(columns.length + end - run.from);
  const { n, date, due, chargedTo, interest, principal, closing, payment } = columns;
  const ownDue = due !== date;
  const ownCharged = chargedTo !== date;
  let row = columns.length;
  let at = run.from;
  let number = run.number;
  while (at < end) {
    const growth = growthOf(at);
    let charged: number;
    if (whole && growth.fast && balance <= growth.amountLimit) {
      charged = fastRoundedProduct(balance, growth.num, growth.den);
    } else {
      charged = roundedProduct(balance, growth, ties) * step;
    }
    const repaid = fixed ? amount - charged : amount;
    if (repaid < 0 || repaid >= balance) break;
    const day = dues[at] as number;
    n[row] = number;
    date[row] = day;
    payment[row] = repaid + charged;
    interest[row] = charged;
    principal[row] = repaid;
    balance -= repaid;
    closing[row] = balance;
    if (ownDue) due[row] = day;
    if (ownCharged) chargedTo[row] = day;
    if (setting > 0) columns.setting[row] = setting;
    at += 1;
    number += 1;
    row += 1;
  }
  columns.length = row;
  return at - run.from;
}
