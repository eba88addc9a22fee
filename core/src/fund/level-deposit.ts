import type { Decimal } from 'decimal.js';
import { decimalOf, Precise } from '../money/precise.ts';
import { TermsFault } from '../faults/terms-fault.ts';
import { growthsAt } from '../rates/growths-at.ts';
import { depositDays, fundPeriod, fundYears } from './fund-periods.ts';
import type { FundTerms } from './fund-terms.ts';

/**
 * The level deposit with which a fund reaches its goal on a count of deposits, in minor units, unrounded.
 *
 * What the fund holds is a + b·deposit, with b the amount of an annuity of one (the s of n at i where every period
 * grows alike; its inverse is the sinking fund factor). Source: Kellison, The Theory of Interest, sections 3.2, 6.4.
 * Throws {@link TermsFault} where the opening balance alone reaches the goal.
 */
export function levelDeposit(terms: FundTerms, goal: number, count: number): Decimal {
  const level = { ...terms, deposits: { type: 'level', count } } as const;
  const held = (deposit: number): Decimal => gathered(level, new Precise(deposit));
  const alone = held(0);
  const exact = new Precise(goal).minus(alone).div(held(1).minus(alone));
  if (exact.lte(0)) {
    throw new TermsFault('opening.amount', 'This grows to the goal by itself; no deposits are needed.');
  }
  return exact;
}

/** What a fund holds with the last of its level deposits, unrounded. */
function gathered(terms: FundTerms, deposit: Decimal): Decimal {
  const days = depositDays(terms);
  let paidIn = new Precise(terms.opening?.amount ?? 0);
  let balance = paidIn;
  const growthOf = growthsAt(decimalOf(terms.annualRate), terms.compounding);
  days.forEach((day, at) => {
    const growth = growthOf(fundYears(terms, fundPeriod(terms, days, at), day));
    const earning = terms.compounding === 'simple' ? paidIn : balance;
    balance = balance.plus(earning.times(growth)).plus(deposit);
    paidIn = paidIn.plus(deposit);
  });
  return balance;
}
