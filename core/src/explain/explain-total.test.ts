import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arbitraryBondWithEvents } from '../testing/arbitrary-bond.ts';
import { buildBondSchedule } from '../bond/schedule/bond-walk.ts';
import { arbitraryLoanWithEvents } from '../testing/arbitrary-loan.ts';
import { buildLoanSchedule } from '../loan/schedule/build-loan-schedule.ts';
import type { LoanEvent } from '../loan/terms/loan-events.ts';
import { day, level, plainLoan } from '../testing/plain-loan.ts';
import { bond, loan, thousand } from '../testing/samples.ts';
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

// 1,000.00 at 12 % from New Year 2025 in twelve payments of 88.85, and a bond of 100,000.00 at 8 % sold to yield 10 %.
describe('a total', () => {
  it('is called by its column and the days that it goes over, of no rows by its column alone', () => {
    expect(explainTotal(loan, 'principal', 3, 6)).toEqual({
      title: 'Principal, 2025-05-01 to 2025-07-01',
      amount: 24_616,
      steps: [
        { label: 'Payment 4, 2025-05-01', amount: 8_124, link: { to: 'row', row: 3, column: 'principal' } },
        { label: 'Payment 5, 2025-06-01', amount: 8_205, link: { to: 'row', row: 4, column: 'principal' } },
        { label: 'Payment 6, 2025-07-01', amount: 8_287, link: { to: 'row', row: 5, column: 'principal' } },
      ],
    });
    expect(explainTotal(loan, 'fee', 3, 3)).toEqual({
      title: 'Fee on the unused part',
      amount: 0,
      steps: [],
    });
    // In nothing that was extra nothing moved.
    expect(explainTotal(loan, 'extra')).toMatchObject({
      title: 'Extra principal, 2025-02-01 to 2026-01-01',
      steps: [],
    });
    expect(explainBondTotal(bond, 'coupon', 2, 2)).toEqual({ title: 'Coupons', amount: 0, steps: [] });
  });

  it('goes by year with the number of payments or coupons in it, whatever stands between them', () => {
    const labels = (how: { readonly steps: readonly { readonly label: string }[] }): string[] =>
      how.steps.map(({ label }) => label);
    expect(labels(explainTotal(loan, 'payment'))).toEqual(['2025, 11 payments', '2026, 1 payment']);
    expect(labels(explainBondTotal(bond, 'expense', 0, 5))).toEqual([
      '2024, 1 coupon',
      '2025, 2 coupons',
      '2026, 1 coupon',
    ]);
    expect(labels(explainBondTotal(bond, 'expense', 0, 2))).toEqual(['Coupon 1, 2024-07-01']);
    const draw: LoanEvent = { type: 'draw', on: day('2025-12-15'), amount: 5_000, then: 'keep' };
    const drawn = buildLoanSchedule(thousand([level(12)], { events: [draw] }));
    expect(labels(explainTotal(drawn, 'payment'))).toEqual(['2025, 11 payments', '2026, 1 payment']);
    expect(labels(explainTotal(drawn, 'added', 11, 13))).toEqual(['2025, 0 payments']);
    // Within a year a row between is told by its day.
    expect(labels(explainTotal(drawn, 'added', 3, 12))).toEqual(['2025-12-15']);
  });

  it('of a bond is what the books carry: coupons, expense, and both that are amortized', () => {
    const costs = buildBondSchedule({
      ...bond.terms,
      issueCosts: { amount: 300_000, method: 'straight-line' },
    });
    const of = (column: 'coupon' | 'expense' | 'amortization'): number =>
      explainBondTotal(costs, column).amount;
    // Ten coupons of 4,000.00; 7,722.00 of discount and 3,000.00 of costs.
    expect([of('coupon'), of('amortization'), of('expense')]).toEqual([4_000_000, 1_072_200, 5_072_200]);
    expect(explainBondTotal(costs, 'amortization').title).toBe('Amortization, 2024-01-01 to 2029-01-01');
  });

  it('says where unrounded amounts are summed', () => {
    const rounding = { interest: 'none', payment: 'none', ties: 'away-from-zero' } as const;
    const unrounded = buildLoanSchedule(thousand([level(12)], { rounding }));
    const said = 'unrounded amounts are summed, and the sum is rounded for showing';
    expect([explainTotal(unrounded, 'interest').rounding, explainTotal(loan, 'interest').rounding]).toEqual([
      said,
      undefined,
    ]);
    const bonds = [
      bond,
      buildBondSchedule({ ...bond.terms, rounding: { interest: 'none', ties: 'away-from-zero' } }),
    ];
    expect(bonds.map((each) => explainBondTotal(each, 'expense').rounding)).toEqual([undefined, said]);
    for (const how of [explainTotal(loan, 'interest'), explainBondTotal(bond, 'coupon')])
      expect(Object.keys(how)).toEqual(['title', 'amount', 'steps']);
  });
});
