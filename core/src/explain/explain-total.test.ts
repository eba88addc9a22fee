import fc from 'fast-check';
import { expect, it } from 'vitest';
import { arbitraryBondWithEvents } from '../testing/arbitrary-bond.ts';
import { buildBondSchedule } from '../bond/schedule/bond-walk.ts';
import { arbitraryLoanWithEvents } from '../testing/arbitrary-loan.ts';
import { buildLoanSchedule } from '../loan/schedule/build-loan-schedule.ts';
import { day, level, plainLoan } from '../testing/plain-loan.ts';
import { explainBondTotal, explainTotal } from './explain-total.ts';

it('is the sum of its steps over any stretch of any loan, each step leading to its first row', () => {
  fc.assert(
    fc.property(
      arbitraryLoanWithEvents,
      fc.nat(),
      fc.nat(),
      fc.constantFrom('payment', 'interest', 'principal', 'extra', 'added', 'fee'),
      (terms, one, other, column) => {
        const schedule = buildLoanSchedule(terms);
        const [from, end] = [one, other].map((at) => at % (schedule.length + 1)).sort((a, b) => a - b);
        const how = explainTotal(schedule, column, from, end);
        const sum = how.steps.reduce((total, { amount }) => total + (amount ?? 0), 0);
        // Unrounded amounts are rounded once for each sum that is shown.
        expect(Math.abs(sum - how.amount)).toBeLessThanOrEqual(schedule.exact ? how.steps.length : 0);
        for (const { link } of how.steps)
          expect(link?.to === 'row' && link.row >= (from ?? 0) && link.row < (end ?? 0)).toBe(true);
      },
    ),
    { numRuns: 100 },
  );
});

it('is the sum of its steps over any stretch of any bond, and over any cut the parts make the whole', () => {
  const columns = fc.constantFrom('coupon', 'expense', 'amortization');
  fc.assert(
    fc.property(arbitraryBondWithEvents, fc.nat(), columns, (terms, place, column) => {
      const schedule = buildBondSchedule(terms);
      const cut = place % (schedule.rows.length + 1);
      const parts = [explainBondTotal(schedule, column, 0, cut), explainBondTotal(schedule, column, cut)];
      const sum = (amounts: readonly (number | undefined)[]): number =>
        amounts.reduce((total: number, amount) => total + (amount ?? 0), 0);
      for (const { amount, steps } of parts) expect(sum(steps.map((step) => step.amount))).toBe(amount);
      expect(sum(parts.map(({ amount }) => amount))).toBe(explainBondTotal(schedule, column).amount);
    }),
    { numRuns: 100 },
  );
});

// Mortgage tables, widely printed: 100,000 at 6 % over 360 pays 599.55 a month, twelve of them 7,194.60; from memory.
it('goes by year, and by payment within one', () => {
  const schedule = buildLoanSchedule(
    plainLoan([level(360)], { start: day('2024-01-01'), first: day('2024-02-01') }),
  );
  const { steps } = explainTotal(schedule, 'payment');
  expect(steps).toHaveLength(31);
  expect(steps[1]).toEqual({
    label: '2025, 12 payments',
    amount: 719_460,
    link: { to: 'row', row: 11, column: 'payment' },
  });
  const [first] = explainTotal(schedule, 'interest', 0, 11).steps;
  expect(first).toMatchObject({ label: 'Payment 1, 2024-02-01', amount: 50_000 });
});
