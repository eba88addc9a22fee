import type { MinorUnits } from '../../units/units.ts';
import type { LoanSchedule } from './loan-schedule.ts';
import { totalDrawn, totalOf } from './totals.ts';

/** What a purchase costs for being financed, and how that is made. Minor units. */
export interface FinanceCost {
  readonly price: MinorUnits;
  readonly downPayment: MinorUnits;
  /** Payments and extra principal. */
  readonly paid: MinorUnits;
  /** Balance and unpaid interest after the last row. */
  readonly left: MinorUnits;
  /** Drawn after the start. */
  readonly drawn: MinorUnits;
  /** What the lender lets go of where it is settled for less. */
  readonly forgiven: MinorUnits;
  /** Down payment, payments, what is left and what is forgiven, less what is drawn besides and the price: the interest. */
  readonly cost: MinorUnits;
}

/**
 * What a purchase costs for being financed; `undefined` for a loan that buys nothing. Source: common practice (total of
 * payments and down payment less the cash price).
 *
 * @example
 * financeCost(loan) // undefined
 */
export function financeCost(schedule: LoanSchedule): FinanceCost | undefined {
  const { terms, length, settlement } = schedule;
  if (!terms.purchase) return undefined;
  const { price, downPayment } = terms.purchase;
  const last = (column: 'closing' | 'unpaid'): MinorUnits =>
    length === 0 ? 0 : (schedule[column][length - 1] as number);
  const left = length === 0 ? terms.amount : last('closing') + last('unpaid');
  const [drawn, cost] = [totalDrawn(schedule), totalOf(schedule, 'interest')];
  const without = cost + price + drawn - downPayment - left;
  // Rounded as they are shown, sums of unrounded amounts may miss each other by a minor unit.
  const paid = settlement ? totalOf(schedule, 'payment') + totalOf(schedule, 'extra') : without;
  return { price, downPayment, paid, left, drawn, forgiven: without - paid, cost };
}
