import type { LoanTerms } from './loan-terms.ts';

/** How many minor units interest is rounded to. */
export function interestStep(terms: Pick<LoanTerms, 'rounding' | 'digits'>): number {
  return terms.rounding.interest === 'unit' ? 10 ** terms.digits : 1;
}
