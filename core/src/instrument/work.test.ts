import { describe, expect, it } from 'vitest';
import { mostSteps } from '../kinds/work-budget.ts';
import type { LoanEvent } from '../loan/terms/loan-events.ts';
import type { LoanTerms } from '../loan/terms/loan-terms.ts';
import { bond, day, level, loan, thousand } from '../testing/samples.ts';
import { buildSchedule, principalOf, proofsOf, rowCount } from './instrument.ts';
import { overBudget, stepsToWorkOut } from './work.ts';

const fees = (many: number, treatment: 'defer' | 'expense'): LoanEvent[] =>
  Array.from({ length: many }, (_, at) => ({
    type: 'fee',
    on: day('2025-01-02') + at,
    amount: 100,
    treatment,
  }));
const dear = (events: LoanEvent[], more: Partial<LoanTerms> = {}): LoanTerms =>
  thousand([level(1_000)], { issueCosts: { amount: 1_000, method: 'straight-line' }, events, ...more });

describe('the work of an instrument', () => {
  it('is its rows, once and for each time that something is worked out anew', () => {
    // Twelve rows, once and for the payment that is set; ten coupons.
    expect([stepsToWorkOut(loan), stepsToWorkOut(bond)]).toEqual([24, 10]);
    const redemptions = [{ on: day('2025-01-01'), face: 1_000_000, price: { num: 1n, den: 1n }, at: 0 }];
    expect(stepsToWorkOut(buildSchedule({ ...bond.terms, redemptions }))).toBe(20);
  });

  it('is refused beyond a budget of steps, with what takes them and what to do', () => {
    const over = buildSchedule(dear(fees(49, 'defer')));
    expect(stepsToWorkOut(over)).toBe(1_000 * (2 + 40 * 50));
    expect(stepsToWorkOut(over)).toBeGreaterThan(mostSteps);
    expect(overBudget(over)).toContain('Costs are spread anew for 50 events over 1000 rows');
    expect(overBudget(over)).toContain('at most 49 ');
    expect(overBudget(buildSchedule(dear(fees(48, 'defer'))))).toBeUndefined();
    // An expense of its day has nothing spread anew.
    expect(overBudget(buildSchedule(dear(fees(60, 'expense'))))).toBeUndefined();
    // Each of 1,200 draws levels the payment anew: 1,201 settings over 2,200 rows.
    const draws = Array.from({ length: 1_200 }, (_, at): LoanEvent => ({
      type: 'draw',
      on: day('2025-01-02') + at,
      amount: 100,
      then: 're-level',
    }));
    const levelled = overBudget(buildSchedule(thousand([level(1_000)], { events: draws })));
    expect(levelled).toContain('The payment is levelled anew 1201 times over 2200 rows');
    expect([overBudget(loan), overBudget(bond)]).toEqual([undefined, undefined]);
  });
});

describe('an instrument of any kind', () => {
  it('has a principal, rows, and proofs that hold', () => {
    expect([principalOf(loan.terms), principalOf(bond.terms)]).toEqual([100_000, 10_000_000]);
    // The issue is a row of a bond.
    expect([rowCount(loan), rowCount(bond)]).toEqual([12, 11]);
    for (const schedule of [loan, bond]) {
      expect(proofsOf(schedule).length).toBeGreaterThan(3);
      expect(proofsOf(schedule).filter(({ holds }) => !holds)).toEqual([]);
    }
  });
});
