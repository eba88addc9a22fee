import { buildLoanSchedule, frontier, parseDay, ratio, type LoanTerms, type PlanMember } from '@coffer/core';
import { benchLoans, levelTerms } from './portfolio.ts';

const months = 120;
const on = parseDay('2036-10-31') as number;
const noFund = { annualRate: ratio(0n), every: 'month' } as const;

function measured(work: () => void): number {
  const from = performance.now();
  work();
  return performance.now() - from;
}

function membersOf(terms: readonly LoanTerms[]): PlanMember[] {
  return terms.map((each, at) => ({
    name: String(at),
    schedule: buildLoanSchedule(each),
    least: 0,
    prepay: true,
  }));
}

/**
 * What the least payments of all horizons cost: each horizon of each loan against one whole schedule of the loan, made
 * from its terms.
 */
export function benchHorizons(): void {
  for (const loans of [10, 100]) {
    const terms = benchLoans(loans).map(levelTerms);
    const members = membersOf(terms);
    const search = (): void => {
      for (const horizon of frontier(members, on, { every: 'month', count: months }, noFund)) void horizon;
    };
    search();
    const took = measured(search);
    const schedules = measured(() => {
      for (let horizon = 0; horizon < months; horizon += 1) for (const each of terms) buildLoanSchedule(each);
    });
    const times = (took / schedules).toFixed(1);
    console.log(
      `${months} horizons of ${loans} loans: ${took.toFixed(0)} ms, ${times} schedules a loan and horizon`,
    );
  }
}
