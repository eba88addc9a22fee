import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dayCountNames } from '../../calendar/day-counts/day-counts.ts';
import { ratio, ratioToNumber, type Ratio } from '../../money/ratio.ts';
import { compoundings } from '../../rates/compounding.ts';
import { TermsFault } from '../../faults/terms-fault.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import type { LoanTerms } from './loan-terms.ts';
import { day, failing, level, percent, plainLoan, rowsOf } from '../../testing/plain-loan.ts';
import { solveUnknown } from './solve-unknown.ts';

describe('what is unknown', () => {
  // Present value of an annuity of 1, 60 periods at 0.5 %: 51.72556 (standard tables, from memory).
  it('the amount that payments repay', () => {
    const solved = solveUnknown(plainLoan([level(60, 60, 100_000)], { amount: 1 }), 'amount');
    expect(solved.amount).toBe(5_172_556);
    expect(buildLoanSchedule(solved).closing[59]).toBe(0);
  });

  it('the rate that amount and payments come to, for any loan', () => {
    const rate = fc.integer({ min: 1, max: 2400 });
    fc.assert(
      fc.property(rate, fc.integer({ min: 2, max: 240 }), (hundredths, count) => {
        const known = plainLoan([level(count)], { annualRate: ratio(BigInt(hundredths), 10_000n) });
        const payment = buildLoanSchedule(known).payment[0] as number;
        const asked = plainLoan([level(count, count, payment)], { annualRate: ratio(0n) });
        let solved: LoanTerms;
        try {
          solved = solveUnknown(asked, 'annual');
        } catch (error) {
          fc.pre(!(error instanceof TermsFault));
          throw error;
        }
        expect(Math.abs(Number(solved.solved?.residual))).toBeLessThan(1e-20);
        const { num, den } = solved.annualRate;
        // A cent of rounding in the payment moves the rate by little over a year, by more over a short one.
        expect(Math.abs(Number((num * 10n ** 12n) / den) / 1e12 - hundredths / 10_000)).toBeLessThan(2e-5);
        expect(failing(solved)).toEqual([]);
      }),
      { numRuns: 40 },
    );
  });

  // The equation of value holds at whatever rates are agreed (Kellison, The Theory of Interest, section 2.2).
  it('the amount or the first rate, through steps and fixings that leave the payment as it is', () => {
    const change = fc.record({
      after: fc.integer({ min: 1, max: 1400 }),
      hundredths: fc.integer({ min: 0, max: 1500 }),
    });
    fc.assert(
      fc.property(
        fc.uniqueArray(change, { minLength: 1, maxLength: 3, selector: ({ after }) => after }),
        fc.boolean(),
        fc.constantFrom(...compoundings),
        fc.constantFrom(...dayCountNames),
        (changes, floats, compounding, dayCount) => {
          const rates = [...changes].sort((a, b) => a.after - b.after);
          const rateOf = (hundredths: number): Ratio => ratio(BigInt(hundredths), 10_000n);
          const start = day('2024-01-15');
          const agreed = plainLoan([level(48, 48, 300_000)], {
            compounding,
            dayCount,
            ...(floats
              ? {
                  index: {
                    name: 'Any index',
                    margin: percent('1'),
                    payment: 'keep',
                    fixings: rates.map(({ after, hundredths }) => ({
                      on: start + after,
                      rate: rateOf(hundredths),
                    })),
                  },
                }
              : {
                  rateSteps: rates.map(({ after, hundredths }) => ({
                    from: start + after,
                    annualRate: rateOf(hundredths),
                    payment: 'keep' as const,
                  })),
                }),
          });
          const solved = solveUnknown({ ...agreed, amount: 1 }, 'amount');
          const rows = rowsOf(solved);
          expect(rows).toHaveLength(48);
          // Half a cent of each row's interest, grown to the end.
          expect(Math.abs((rows.at(-1)?.payment ?? 0) - 300_000)).toBeLessThan(60);
          const back = solveUnknown({ ...solved, annualRate: ratio(0n) }, 'annual').annualRate;
          // The first rate matters as long as it is in force.
          const days = rates[0]?.after ?? 0;
          expect(Math.abs(ratioToNumber(back) - 0.06)).toBeLessThan(1e-4 / days);
        },
      ),
      { numRuns: 25 },
    );
  });

  it('out of reach says why and what would do', () => {
    const levelled = plainLoan([level(12, 12, 900_000)], {
      rateSteps: [{ from: day('2024-06-15'), annualRate: percent('7'), payment: 're-level' }],
    });
    expect(() => solveUnknown(levelled, 'amount')).toThrow('have the payment stay');
    const floats = plainLoan([level(12, 12, 900_000)], {
      index: {
        name: 'x',
        margin: percent('1'),
        payment: 'keep',
        fixings: [{ on: day('2024-01-15'), rate: percent('2') }],
      },
    });
    expect(() => solveUnknown(floats, 'annual')).toThrow('never in force');
    const brief = plainLoan([{ type: 'interest-only', count: 3 }, level(12, 12, 900_000)], {
      rateSteps: [{ from: day('2024-02-15'), annualRate: percent('7'), payment: 'keep' }],
    });
    expect(() => solveUnknown(brief, 'annual')).toThrow('any rate would do');

    const few = plainLoan([level(12, 12, 800_000)], { annualRate: ratio(0n) });
    expect(() => solveUnknown(few, 'annual')).toThrow('sum to 4000.00 less than the amount');
    const open = plainLoan([{ type: 'interest-only', count: 12 }], { amount: 1 });
    expect(() => solveUnknown(open, 'amount')).toThrow('any value would do');
  });
});
