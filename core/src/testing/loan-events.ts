import type { LoanEvent } from '../loan/terms/loan-events.ts';
import type { LoanTerms } from '../loan/terms/loan-terms.ts';
import { day } from './plain-loan.ts';

/** For tests: what was paid for a payment due on one day, on another. Minor units. */
export const paid = (due: string, on: string, amount: number): LoanEvent => ({
  type: 'paid',
  due: day(due),
  on: day(on),
  amount,
});

/** Extra principal. */
export const extra = (on: string, amount: number, then: 'shorten' | 're-level' = 'shorten'): LoanEvent => ({
  type: 'extra-principal',
  on: day(on),
  amount,
  then,
});

/** Another amount drawn, which leaves the payment as it is. */
export const draw = (on: string, amount: number): LoanEvent => ({
  type: 'draw',
  on: day(on),
  amount,
  then: 'keep',
});

/** A settlement for what is owed, or for an agreed amount. */
export const settled = (on: string, amount?: number): LoanEvent => ({
  type: 'settled',
  on: day(on),
  ...(amount !== undefined && { amount }),
});

/** Terms in which something happens. */
export const withEvents = (...events: readonly LoanEvent[]): Partial<LoanTerms> => ({ events });
