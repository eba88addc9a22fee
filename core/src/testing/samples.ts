import { buildBondSchedule } from '../bond/schedule/bond-walk.ts';
import { buildFundSchedule } from '../fund/build-fund-schedule.ts';
import { buildLoanSchedule } from '../loan/schedule/build-loan-schedule.ts';
import { budgetOutcome, isOutcome } from '../plan/budget/budget.ts';
import type { FundRule } from '../plan/plan-fund.ts';
import { plainBond } from './plain-bond.ts';
import { plainFund } from './plain-fund.ts';
import { day, level, percent, thousand } from './plain-loan.ts';
import { member } from './plain-plan.ts';

export { day, level, percent, thousand };

/** What the examples of doc comments are about: 1,000.00 at 12 % from 1 January 2025 in twelve monthly payments of 88.85. */
export const loan = buildLoanSchedule(thousand([level(12)]));

/** 100,000 at 8 % half-yearly from 1 January 2024 to 1 January 2029, sold to yield 10 %: 92,278. */
export const bond = buildBondSchedule(plainBond('8', { marketYield: percent('10') }));

/** Ten yearly deposits from 31 January 2025 that come to 10,000.00 at 6 %. */
export const fund = buildFundSchedule(plainFund('6', { goal: 1_000_000 }));

/** What a plan's fund earns, and how often is paid into it. */
export const fundRule: FundRule = { annualRate: percent('3'), every: 'month' };

/** The loan as a member of a plan. */
export const members = [member(loan, 'Press loan')];

const spent = budgetOutcome(members, day('2025-06-30'), 20_000, 'highest-rate');

/** What 200.00 a month come to that are used for it. */
export const outcome = isOutcome(spent) ? spent : undefined;
