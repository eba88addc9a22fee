import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { day, failing, level, percent, plainLoan, rowsOf } from '../../testing/plain-loan.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import type { LoanTerms } from '../terms/loan-terms.ts';

const endsAt = (terms: LoanTerms): number | undefined => rowsOf(terms).at(-1)?.closing;

// The last contractual payment absorbs all rounding (common practice), whatever is agreed about what would be left.
describe('the last payment of a loan that leaves what it does not repay', () => {
  it('takes what rounding left once a renewal repays all of it', () => {
    const renewal: LoanEvent = {
      type: 'renewal',
      on: day('2029-01-15'),
      annualRate: percent('4.9'),
      count: 60,
      amortizeOver: 60,
    };
    const terms = plainLoan([level(60, 240)], {
      amount: 80_000_000,
      annualRate: percent('5.2'),
      atEnd: 'leave',
      events: [renewal],
    });
    const [before, last] = rowsOf(terms).slice(-2);
    expect((last?.payment ?? 0) - (before?.payment ?? 0)).toBe(21);
    expect(last?.closing).toBe(0);
    expect(failing(terms)).toEqual([]);
    expect(endsAt({ ...terms, events: [{ ...renewal, count: 59 }] })).toBeGreaterThan(1_000_000);
  });

  it('takes it however amounts are rounded, and leaves what was agreed to be left', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 360 }),
        fc.integer({ min: 0, max: 60 }),
        fc.integer({ min: 0, max: 1500 }),
        fc.constantFrom('cent', 'cent-up', 'unit'),
        fc.constantFrom('cent', 'unit'),
        fc.constantFrom('ACT/360', 'ACT/365F', '30/360', 'even-periods'),
        (count, more, rate, payment, interest, dayCount) => {
          const terms = plainLoan([level(count, count + more)], {
            annualRate: percent(String(rate / 100)),
            rounding: { payment, interest, ties: 'away-from-zero' },
            dayCount,
            atEnd: 'leave',
          } as Partial<LoanTerms>);
          const left = endsAt(terms) ?? 0;
          if (more === 0) expect(left).toBe(0);
          else expect(left).toBeGreaterThan(5_000);
        },
      ),
      { numRuns: 300 },
    );
  });

  it('leaves what is more than rounding: a draw that keeps the payment, a payment that was missed', () => {
    const draw: LoanEvent = { type: 'draw', on: day('2024-05-20'), amount: 10_000, then: 'keep' };
    const missed: LoanEvent = { type: 'paid', due: day('2024-05-15'), on: day('2024-05-15'), amount: 0 };
    for (const event of [draw, missed]) {
      expect(endsAt(plainLoan([level(24)], { atEnd: 'leave', events: [event] }))).toBeGreaterThan(9_000);
    }
  });
});
