import { Decimal } from 'decimal.js';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { explainLoanFigure } from '../explain/explain-loan.ts';
import { ratio } from '../../money/ratio.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import type { LoanTerms, Phase } from './loan-terms.ts';
import { day, failing, level, percent, plainLoan, rowsOf } from '../../testing/plain-loan.ts';
import { solveUnknown } from './solve-unknown.ts';

const rest = (count: number): Phase => ({
  type: 'no-payment',
  count,
  interest: 'added-each-period',
  then: 'add-to-balance',
});
const openIn = (terms: LoanTerms, at: readonly number[]): LoanTerms =>
  solveUnknown(terms, { samePaymentIn: at });
const paymentOf = ({ phases }: LoanTerms, at: number): number => {
  const phase = phases[at];
  return phase?.type === 'level' ? (phase.payment ?? 0) : 0;
};

describe('one payment for several stretches', () => {
  // Equation of value (Kellison, The Theory of Interest, section 2.2): the amount is the present value of what is paid.
  it('has the present value of the amount, season after season', () => {
    const season = fc.record({ pays: fc.integer({ min: 1, max: 9 }), rests: fc.integer({ min: 1, max: 9 }) });
    const terms = fc.record({
      seasons: fc.array(season, { minLength: 2, maxLength: 8 }),
      amount: fc.integer({ min: 1_000_000, max: 900_000_000 }),
      hundredths: fc.integer({ min: 0, max: 1800 }),
    });
    fc.assert(
      fc.property(terms, ({ seasons, amount, hundredths }) => {
        const phases = seasons.flatMap(({ pays, rests }) => [level(pays), rest(rests)]).slice(0, -1);
        const annualRate = ratio(BigInt(hundredths), 10_000n);
        const at = phases.flatMap(({ type }, place) => (type === 'level' ? [place] : []));
        const solved = openIn(plainLoan(phases, { amount, annualRate }), at);
        const discount = new Decimal(1).div(new Decimal(hundredths).div(120_000).plus(1));
        let month = 0;
        let worth = new Decimal(0);
        for (const { type, count } of phases as { type: string; count: number }[]) {
          for (let paid = 0; paid < count; paid += 1) {
            month += 1;
            if (type === 'level') worth = worth.plus(discount.pow(month));
          }
        }
        const expected = new Decimal(amount).div(worth).toDecimalPlaces(0, Decimal.ROUND_HALF_UP).toNumber();
        expect(at.map((place) => paymentOf(solved, place))).toEqual(at.map(() => expected));
        expect(failing(solved)).toEqual([]);
      }),
    );
  });

  it('leaves a last payment that differs by no more than the cents rounded on the way', () => {
    const phases = [level(4), rest(8), level(4), { type: 'interest-only', count: 8 } as const, level(4)];
    const solved = openIn(plainLoan(phases), [0, 2, 4]);
    const rows = rowsOf(solved);
    const last = rows.at(-1)?.payment ?? 0;
    expect(rows[0]?.payment).toBe(rows[24]?.payment);
    expect(Math.abs(last - paymentOf(solved, 0))).toBeLessThan(rows.length);
    expect(failing(solved)).toEqual([]);
  });

  it('leaves given stretches as they are and says how it was worked out', () => {
    const steps: Phase[] = [level(12), { type: 'fixed', payment: 150_000, count: 12 }, level(12)];
    const solved = openIn(plainLoan(steps, { due: 'start', first: day('2024-01-15') }), [0, 2]);
    const schedule = buildLoanSchedule(solved);
    const [first, given, third] = [0, 12, 24].map((row) => schedule.payment[row] as number);
    expect([given, third]).toEqual([150_000, first]);
    const told = explainLoanFigure(schedule, 0, 'payment');
    expect(told.amount).toBe(first);
    expect(told.unrounded).toBe(solved.solved?.value);
    expect(explainLoanFigure(schedule, 12, 'payment').unrounded).toBeUndefined();
  });

  it('rounds as the terms round payments', () => {
    const rounded = (payment: LoanTerms['rounding']['payment']): number => {
      const rounding = { interest: 'cent', payment, ties: 'away-from-zero' } as const;
      return paymentOf(openIn(plainLoan([level(6), rest(6), level(6)], { rounding }), [0, 2]), 0);
    };
    const exact = Number(openIn(plainLoan([level(6), rest(6), level(6)]), [0, 2]).solved?.value) * 100;
    expect(rounded('cent')).toBe(Math.round(exact));
    expect(rounded('cent-up')).toBe(Math.ceil(exact));
    expect(rounded('unit')).toBe(Math.round(exact / 100) * 100);
  });

  it('is worked out through a rate known to change, unless that levels the payment anew or nothing is left to pay', () => {
    const two = [level(6), rest(6), level(6)];
    const stepped = (payment: 'keep' | 're-level'): LoanTerms =>
      plainLoan(two, { rateSteps: [{ from: day('2024-06-25'), annualRate: percent('7'), payment }] });
    const solved = openIn(stepped('keep'), [0, 2]);
    const rows = rowsOf(solved);
    expect(Math.abs((rows.at(-1)?.payment ?? 0) - paymentOf(solved, 0))).toBeLessThan(20);
    expect(paymentOf(solved, 0)).toBeGreaterThan(paymentOf(openIn(plainLoan(two), [0, 2]), 0));
    expect(() => openIn(stepped('re-level'), [0, 2])).toThrow('levelled anew');
    const repaid = plainLoan([{ type: 'fixed', payment: 9_000_000, count: 2 }, level(6), rest(2), level(6)]);
    expect(() => openIn(repaid, [1, 3])).toThrow('nothing is left for this payment');
  });
});
