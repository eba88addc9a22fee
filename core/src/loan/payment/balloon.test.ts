import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ratio } from '../../money/ratio.ts';
import { explainLoanFigure } from '../explain/explain-loan.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import type { LoanTerms } from '../terms/loan-terms.ts';
import { day, failing, level, percent, plainLoan, rowsOf } from '../../testing/plain-loan.ts';
import { solveUnknown } from '../terms/solve-unknown.ts';

/** Monthly payments of a loan of 20,000.00 that leave a balloon. */
const leaving = (balloon: number, count: number, more: Partial<LoanTerms> = {}): LoanTerms =>
  plainLoan([{ type: 'level', count, amortizeOver: count, balloon }], { amount: 2_000_000, ...more });

describe('a balloon of an agreed amount', () => {
  // Standard tables, 48 periods at 0.5 %: present value of an annuity 42.58032, of 1 0.787098; from memory. So
  // (20,000 − 5,000 × 0.787098) ÷ 42.58032 = 377.28.
  it('lessens the payments by its present value, and is paid with the last', () => {
    const rows = rowsOf(leaving(500_000, 48));
    expect(rows[0]?.payment).toBe(37_728);
    const last = rows.at(-1);
    expect(Math.abs((last?.payment ?? 0) - 37_728 - 500_000)).toBeLessThan(48);
    expect(last?.closing).toBe(0);
    const schedule = buildLoanSchedule(leaving(500_000, 48));
    const { steps, unrounded } = explainLoanFigure(schedule, 0, 'payment');
    expect(steps).toContainEqual(
      expect.objectContaining({ label: '− left after the last', amount: 500_000 }),
    );
    expect(unrounded?.startsWith('377.27')).toBe(true);
  });

  // Common practice: a balloon of all that is lent makes the payments interest only.
  it('of the whole balance leaves interest to pay, and more is refused with the most it may be', () => {
    const rows = rowsOf(leaving(2_000_000, 12));
    expect(rows.slice(0, 11).every(({ payment }) => payment === 10_000)).toBe(true);
    expect(() => buildLoanSchedule(leaving(2_000_001, 12))).toThrow('at most 20000.00');
  });

  it('remains after the payments of any loan, and with them the rate is found again', () => {
    const rates = fc.integer({ min: 0, max: 2400 });
    fc.assert(
      fc.property(
        rates,
        fc.integer({ min: 2, max: 180 }),
        fc.integer({ min: 1, max: 99 }),
        (hundredths, count, share) => {
          const annualRate = ratio(BigInt(hundredths), 10_000n);
          const terms = leaving(20_000 * share, count, { annualRate });
          const growth = (1 + hundredths / 120_000) ** count;
          const left = rowsOf({ ...terms, atEnd: 'leave' }).at(-1)?.closing ?? 0;
          expect(Math.abs(left - 20_000 * share)).toBeLessThanOrEqual(count * growth);
          expect(failing(terms)).toEqual([]);

          const payment = buildLoanSchedule(terms).payment[0] as number;
          const asked: LoanTerms = {
            ...terms,
            annualRate: ratio(0n),
            phases: [
              { ...level(count, count, payment), balloon: 20_000 * share } as LoanTerms['phases'][number],
            ],
          };
          fc.pre(payment * count + 20_000 * share >= 2_000_000);
          const { num, den } = solveUnknown(asked, 'annual').annualRate;
          expect(Math.abs(Number((num * 10n ** 12n) / den) / 1e12 - hundredths / 10_000)).toBeLessThan(2e-5);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('stays agreed when extra principal has the payment levelled anew, but never exceeds what is owed', () => {
    const extra = (amount: number): LoanTerms =>
      leaving(500_000, 48, {
        events: [{ type: 'extra-principal', on: day('2025-02-15'), amount, then: 're-level' }],
      });
    const rows = rowsOf({ ...extra(300_000), atEnd: 'leave' });
    expect(Math.abs((rows.at(-1)?.closing ?? 0) - 500_000)).toBeLessThan(48);
    expect(rows[13]?.payment).toBeLessThan(37_728);
    expect(failing(extra(1_400_000))).toEqual([]);
  });

  it('with a payment in advance, the whole is worth what is lent', () => {
    const rows = rowsOf(
      leaving(500_000, 48, { due: 'start', first: day('2024-01-15'), annualRate: percent('6') }),
    );
    const worth = rows.reduce((sum, { payment }, at) => sum + payment / 1.005 ** at, 0);
    expect(Math.abs(worth - 2_000_000)).toBeLessThan(48);
  });
});

describe('a payment that repays little or nothing', () => {
  // 10,000.00 at 6 % a year costs 50.00 a month: what covers no more repays nothing.
  const paying = (payment: number): LoanTerms => plainLoan([level(12, 12, payment)], { amount: 1_000_000 });

  it('is refused with the least that repays something, which is then taken', () => {
    for (const payment of [1_000, 5_000]) {
      expect(() => buildLoanSchedule(paying(payment))).toThrow('the least that repays something is 50.01');
    }
    const { notices, principal } = buildLoanSchedule(paying(5_001));
    expect(principal[0]).toBe(1);
    expect(notices).toMatchObject([{ kind: 'last-payment-large', stated: 5_001, applied: 1_004_989 }]);
  });

  it('is no such case where it is below the interest of a long first period only', () => {
    const long = plainLoan([level(12, 12, 90_000)], { amount: 1_000_000, first: day('2025-07-15') });
    expect(() => buildLoanSchedule(long)).not.toThrow();
  });

  it('is as good as any where a balloon repays', () => {
    // 1,000.00 at 1 % a month: 9.00 three times, each 1.00 short and growing, and 1,003.03 with the third.
    const terms = plainLoan([{ type: 'level', count: 3, amortizeOver: 3, payment: 900, balloon: 100_303 }], {
      annualRate: percent('12'),
      amount: 1,
    });
    expect(solveUnknown(terms, 'amount').amount).toBe(100_000);
    const rate = solveUnknown({ ...terms, amount: 100_000 }, 'annual');
    expect(Number(rate.solved?.value.slice(0, -1))).toBeCloseTo(12, 3);
    expect(failing(solveUnknown(terms, 'amount'))).toEqual([]);
  });
});
