import type { Decimal } from 'decimal.js';
import { Precise } from '../money/precise.ts';
import { growsOnInterest } from '../rates/compounding.ts';
import type { RatePart } from './contract-growth.ts';
import type { ContractStep } from './contract-steps.ts';
import type { LoanTerms } from './loan-terms.ts';

/** Interest accrued before a loan was taken on, paid with its first payment; minor units. */
export interface BroughtIn {
  readonly amount: number;
  /** Whether it earns interest until then, as interest within a period does under a compounding frequency. */
  readonly grows: boolean;
}

/** What a loan brings in. */
export function broughtInOf({ takenOn, compounding }: LoanTerms): BroughtIn {
  return { amount: takenOn?.accruedInterest ?? 0, grows: growsOnInterest(compounding) };
}

/** The balance left after the steps, unrounded, growing with each period; negative where too much is paid. */
export function balanceLeft(
  steps: readonly ContractStep[],
  amount: Decimal,
  growthOf: (parts: readonly RatePart[]) => Decimal,
  broughtIn: BroughtIn = { amount: 0, grows: false },
): Decimal {
  let balance = amount;
  let kept = new Precise(broughtIn.amount);
  let growing = broughtIn.grows ? kept : new Precise(0);
  for (const step of steps) {
    const interest = balance.plus(growing).times(growthOf(step.parts)).plus(kept);
    kept = growing = new Precise(0);
    switch (step.does) {
      case 'pays':
        balance = balance.plus(interest).minus(step.amount);
        break;
      case 'repays':
        balance = balance.minus(step.amount);
        break;
      case 'adds-interest':
      case 'adds-kept':
        balance = balance.plus(interest);
        break;
      case 'keeps-interest':
        kept = interest;
        break;
      case 'pays-interest':
      case 'pays-kept':
        break;
    }
  }
  return balance;
}
