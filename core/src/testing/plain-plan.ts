import type { LoanSchedule } from '../loan/schedule/loan-schedule.ts';
import { buildLoanSchedule } from '../loan/schedule/build-loan-schedule.ts';
import { budgetOutcome, isOutcome, type BudgetOutcome, type BudgetUse } from '../plan/budget/budget.ts';
import type { PlanMember } from '../plan/plan.ts';
import { day, level, percent, plainLoan } from './plain-loan.ts';

/** A level loan of 120 monthly payments from 2026-01-15. */
export const monthly = (amount: number, rate: string): LoanSchedule =>
  buildLoanSchedule(
    plainLoan([level(120)], {
      amount,
      annualRate: percent(rate),
      start: day('2026-01-15'),
      first: day('2026-02-15'),
    }),
  );
/** A loan as a member of a plan that may be repaid early. */
export const member = (schedule: LoanSchedule, name: string, least = 0): PlanMember => ({
  name,
  schedule,
  least,
  prepay: true,
});

/** The loans of a worked plan. */
export const three = [monthly(560_000, '7.9'), monthly(850_000, '6.8'), monthly(230_000, '2.875')];
export const members = three.map((schedule, at) => member(schedule, 'ABC'.charAt(at)));

/** What a budget comes to that reaches a common day where it is used for one. */
export function spent(of: readonly PlanMember[], on: number, amount: number, use: BudgetUse): BudgetOutcome {
  const made = budgetOutcome(of, on, amount, use);
  if (!isOutcome(made)) throw new Error(`No common day is within it; ${made.least} would have one.`);
  return made;
}
