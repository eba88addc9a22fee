import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arbitraryBondWithEvents } from '../testing/arbitrary-bond.ts';
import { bondProofs } from '../bond/schedule/bond-proofs.ts';
import { buildBondSchedule } from '../bond/schedule/bond-walk.ts';
import { arbitraryLoan, canBeScheduled } from '../testing/arbitrary-loan.ts';
import { buildLoanSchedule } from '../loan/schedule/build-loan-schedule.ts';
import { loanProofs } from '../loan/schedule/loan-proofs.ts';

// A proof that cannot fail proves nothing: whatever single figure is altered, some proof must say so.
describe('proofs', () => {
  it('of a loan fail when any one figure is off by a cent, and say by how much', () => {
    const columns = ['opening', 'payment', 'interest', 'principal', 'extra', 'closing'] as const;
    const anyRow = fc.integer({ min: 0, max: 10_000 });
    const rounding = { interest: 'cent', payment: 'cent', ties: 'even' } as const;
    fc.assert(
      fc.property(
        arbitraryLoan.map((terms) => ({ ...terms, rounding })).filter(canBeScheduled),
        fc.constantFrom(...columns),
        anyRow,
        fc.constantFrom(1, -1, 100),
        (terms, name, row, by) => {
          const schedule = buildLoanSchedule(terms);
          const column = schedule[name].slice();
          const at = row % schedule.length;
          column[at] = (column[at] as number) + by;
          const failing = loanProofs({ ...schedule, [name]: column }).filter((proof) => !proof.holds);
          expect(failing.length).toBeGreaterThan(0);
          expect(failing.every((proof) => proof.difference !== 0)).toBe(true);
        },
      ),
      { numRuns: 80 },
    );
  });

  it('of a bond fail when any one figure is off by a cent', () => {
    const figures = [
      'opening',
      'coupon',
      'expense',
      'amortization',
      'retired',
      'unamortized',
      'closing',
    ] as const;
    fc.assert(
      fc.property(
        arbitraryBondWithEvents,
        fc.constantFrom(...figures),
        fc.integer({ min: 1, max: 10_000 }),
        (terms, figure, row) => {
          const schedule = buildBondSchedule(terms);
          const at = 1 + (row % (schedule.rows.length - 1));
          const rows = schedule.rows.map((each, index) =>
            index === at
              ? {
                  ...each,
                  [figure]: each[figure] + 1,
                  exact: { ...each.exact, [figure]: each.exact[figure] + 1n },
                }
              : each,
          );
          expect(bondProofs({ ...schedule, rows }).some((proof) => !proof.holds)).toBe(true);
        },
      ),
      { numRuns: 80 },
    );
  });
});
