import type { Decimal } from 'decimal.js';
import { Precise } from '../money/precise.ts';
import type { RatePart } from './contract-growth.ts';
import type { ContractStep } from './contract-steps.ts';

/** The balance left after the steps, unrounded, growing with each period; negative where too much is paid. */
export function balanceLeft(
  steps: readonly ContractStep[],
  amount: Decimal,
  growthOf: (parts: readonly RatePart[]) => Decimal,
  broughtIn = 0,
): Decimal {
  let balance = amount;
  let kept = new Precise(broughtIn);
  for (const step of steps) {
    const interest = balance.times(growthOf(step.parts)).plus(kept);
    kept = new Precise(0);
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
