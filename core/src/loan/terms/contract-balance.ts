import type { Decimal } from 'decimal.js';
import { Precise } from '../../money/precise.ts';
import { ratioToNumber } from '../../money/ratio.ts';
import { compoundingsPerYear, growsOnInterest } from '../../rates/compounding.ts';
import type { RateTimeline } from '../../rates/rate-timeline.ts';
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

/** The balance left at a rate tried in place of the first, in doubles: for estimates, and quick. */
export function leftInDoubles(
  terms: LoanTerms,
  rates: RateTimeline,
  steps: readonly ContractStep[],
): (rate: number) => number {
  const { compounding } = terms;
  const times = compoundingsPerYear[compounding];
  const multiplies = growsOnInterest(compounding);
  const annual = rates.map(({ annualRate }) => ratioToNumber(annualRate));
  const over = (rate: number, years: number): number => {
    if (times !== undefined) return Math.expm1(times * years * Math.log1p(rate / times));
    return compounding === 'continuous' ? Math.expm1(rate * years) : rate * years;
  };
  const { amount, grows } = broughtInOf(terms);
  return (first) => {
    let balance = terms.amount;
    let kept = amount;
    let growing = grows ? amount : 0;
    for (const step of steps) {
      let growth = 0;
      for (const { years, rate } of step.parts) {
        const part = over(rate === 0 ? first : (annual[rate] as number), years.num / years.den);
        growth = multiplies ? (1 + growth) * (1 + part) - 1 : growth + part;
      }
      const interest = (balance + growing) * growth + kept;
      kept = growing = 0;
      if (step.does === 'pays') balance += interest - step.amount;
      else if (step.does === 'repays') balance -= step.amount;
      else if (step.does === 'adds-interest' || step.does === 'adds-kept') balance += interest;
      else if (step.does === 'keeps-interest') kept = interest;
    }
    return balance;
  };
}
