import { describe, expect, it } from 'vitest';
import { paid, withEvents } from '../../testing/loan-events.ts';
import { day, level, thousand } from '../../testing/plain-loan.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import type { LoanTerms, Phase } from '../terms/loan-terms.ts';
import { buildLoanSchedule } from './build-loan-schedule.ts';
import { asksOneAmount, isFirstCharge, loanRow, rowOfDue, type LoanSchedule } from './loan-schedule.ts';

const built = (more: Partial<LoanTerms> = {}, phases: readonly Phase[] = [level(4)]): LoanSchedule =>
  buildLoanSchedule(thousand(phases, more));
const draw: LoanEvent = { type: 'draw', on: day('2025-02-11'), amount: 10_000, then: 'keep' };

// 1,000.00 at 1 % a month from New Year 2025 in four payments of 256.28.
describe('a row of a loan', () => {
  it('is looked at by its place, and none where there is none', () => {
    const loan = built();
    expect([loanRow(loan, 0).n, loanRow(loan, 3).closing]).toEqual([1, 0]);
    for (const place of [-1, 4, 0.5, Number.NaN]) {
      expect(() => loanRow(loan, place)).toThrow(`The schedule has no row ${place}.`);
    }
  });

  it('is found by the day that it is due, of numbered ones alone', () => {
    const late = built(withEvents(paid('2025-02-01', '2025-02-11', 25_628), draw));
    expect(
      ['2025-02-01', '2025-02-11', '2025-03-01', '2025-03-02'].map((on) => rowOfDue(late, day(on))),
    ).toEqual([0, -1, 3, -1]);
  });

  it('charges what was brought in if it is the first that charges at all', () => {
    const early = built({
      takenOn: { accruedInterest: 500 },
      ...withEvents({ ...draw, on: day('2025-01-11') }, { type: 'interest-added', on: day('2025-01-21') }),
    });
    expect(Array.from({ length: 4 }, (_, row) => isFirstCharge(early, row))).toEqual([
      false,
      true,
      false,
      false,
    ]);
    expect([0, 1].map((row) => isFirstCharge(built(), row))).toEqual([true, false]);
  });

  it('has a payment that is asked as one amount, or that is set by what is owed', () => {
    const asks = (phase: Phase, more: Partial<LoanTerms> = {}): boolean[] =>
      built(more, [phase]).settings.map((setting) => asksOneAmount(setting));
    expect(asks(level(4))).toEqual([true]);
    expect(asks({ type: 'fixed', payment: 30_000 })).toEqual([true]);
    expect(
      asks(level(4), withEvents({ type: 'payment-change', on: day('2025-03-01'), payment: 30_000 })),
    ).toEqual([true, true]);
    expect(asks(level(4), withEvents({ type: 'payment-change', on: day('2025-03-01'), payment: 0 }))[1]).toBe(
      false,
    );
    for (const phase of [
      { type: 'interest-only', count: 4 },
      { type: 'equal-principal', count: 4 },
    ] as const)
      expect(asks(phase)).toEqual([false]);
  });
});
