import { fastRoundedProduct, roundedProduct, type Multiplier } from '../../money/rounded-product.ts';
import type { Ties } from '../../money/round-ratio.ts';
import type { FillingColumns } from './loan-columns.ts';
import type { MinorUnits } from '../../units/units.ts';

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
  readonly amount: MinorUnits;
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
 *
 * @example
 * fillRegularRows(
 *   new FillingColumns(12, 0),
 *   { dues: loan.date, from: 0, end: 3, number: 1, kind: 'payment', amount: 8_885, step: 1, ties: 'even', setting: 0,
 *     growthOf: () => multiplier(ratio(1n, 100n)) },
 *   100_000,
 * )
 * // 3
 */
export function fillRegularRows(columns: FillingColumns, run: RegularRun, balance: MinorUnits): number {
  columns.reserve(columns.length + run.end - run.from);
  const first = columns.length;
  const plain = run.step === 1 && run.ties === 'away-from-zero';
  let left = balance;
  for (;;) {
    const before = columns.length;
    const at = run.from + before - first;
    if (at >= run.end) break;
    left =
      plain && run.growthOf(at).fast ? fastRows(columns, run, at, left) : anyRows(columns, run, at, left);
    if (columns.length === before) break;
  }
  finish(columns, run, first);
  return columns.length - first;
}

/** Rows for as long as plain numbers settle the rounding; gives the balance after them. */
function fastRows(columns: FillingColumns, run: RegularRun, from: number, opening: number): number {
  const { n, date, interest, principal, closing, payment } = columns;
  const { dues, end, amount, growthOf } = run;
  const fixed = run.kind === 'payment';
  const number = run.number - run.from;
  let balance = opening;
  let row = columns.length;
  for (let at = from; at < end; at += 1) {
    const growth = growthOf(at);
    if (!growth.fast || balance > growth.amountLimit) break;
    const charged = fastRoundedProduct(balance, growth.num, growth.den);
    const repaid = fixed ? amount - charged : amount;
    if (repaid < 0 || repaid >= balance) break;
    n[row] = number + at;
    date[row] = dues[at] as number;
    payment[row] = repaid + charged;
    interest[row] = charged;
    principal[row] = repaid;
    balance -= repaid;
    closing[row] = balance;
    row += 1;
  }
  columns.length = row;
  return balance;
}

/** The same by any rounding rule and at any growth. */
function anyRows(columns: FillingColumns, run: RegularRun, from: number, opening: number): number {
  const { n, date, interest, principal, closing, payment } = columns;
  const { dues, end, amount, growthOf, step, ties } = run;
  const fixed = run.kind === 'payment';
  const number = run.number - run.from;
  let balance = opening;
  let row = columns.length;
  for (let at = from; at < end; at += 1) {
    const charged = roundedProduct(balance, growthOf(at), ties) * step;
    const repaid = fixed ? amount - charged : amount;
    if (repaid < 0 || repaid >= balance) break;
    n[row] = number + at;
    date[row] = dues[at] as number;
    payment[row] = repaid + charged;
    interest[row] = charged;
    principal[row] = repaid;
    balance -= repaid;
    closing[row] = balance;
    row += 1;
  }
  columns.length = row;
  return balance;
}

/** What most loans have no need of: due days of their own, and the setting of the payment. */
function finish(columns: FillingColumns, { setting }: RegularRun, first: number): void {
  const { date, due, chargedTo, length } = columns;
  if (due !== date) due.set(date.subarray(first, length), first);
  if (chargedTo !== date) chargedTo.set(date.subarray(first, length), first);
  if (setting > 0) columns.setting.fill(setting, first, length);
}
