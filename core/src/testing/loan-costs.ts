import { costAmortization } from '../loan/costs/issue-costs.ts';
import { buildLoanSchedule } from '../loan/schedule/build-loan-schedule.ts';
import type { LoanSchedule } from '../loan/schedule/loan-schedule.ts';
import type { LoanEvent } from '../loan/terms/loan-events.ts';
import type { IssueCosts, LoanTerms, Phase } from '../loan/terms/loan-terms.ts';
import { day, level, thousand } from './plain-loan.ts';

/** For tests: an amount so many times. */
export const times = (many: number, amount: number): number[] => Array.from({ length: many }, () => amount);
/** A loan of 1,000.00 with costs. */
export const withCosts = (
  issueCosts: IssueCosts | undefined,
  more: Partial<LoanTerms> = {},
  phases: readonly Phase[] = [level(12)],
): LoanSchedule => buildLoanSchedule(thousand(phases, { ...(issueCosts && { issueCosts }), ...more }));
/** What is amortized row by row. */
export const amortizedRows = (schedule: LoanSchedule): number[] => [...costAmortization(schedule).amortized];
/** Costs that go in equal parts. */
export const equal = (amount: number): IssueCosts => ({ amount, method: 'straight-line' });
/** Costs that go at the effective rate. */
export const effective = (amount: number): IssueCosts => ({ amount, method: 'effective' });
/** A fee, deferred like costs of the loan or an expense of its day. */
export const fee = (on: string, amount: number, treatment: 'defer' | 'expense' = 'defer'): LoanEvent => ({
  type: 'fee',
  on: day(on),
  amount,
  treatment,
});
