import { describe, expect, it } from 'vitest';
import { paid } from '../../testing/loan-events.ts';
import { day, level, percent, thousand } from '../../testing/plain-loan.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import { kindOfRow, type LoanSchedule } from '../schedule/loan-schedule.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import type { LoanTerms, Phase } from '../terms/loan-terms.ts';
import { bookedInterest } from './booked-interest.ts';
import { estimatedSteps, type InterestSegment } from './interest-segment.ts';

const unrounded = { interest: 'none', payment: 'none', ties: 'away-from-zero' } as const;
const built = (phases: readonly Phase[], more: Partial<LoanTerms> = {}): LoanSchedule =>
  buildLoanSchedule(thousand(phases, { rounding: unrounded, dayCount: 'ACT/365F', ...more }));
const draw: LoanEvent = { type: 'draw', on: day('2025-02-11'), amount: 33_333, then: 'keep' };
const waiting: readonly Phase[] = [{ type: 'interest-only', count: 7 }];
const line: Partial<LoanTerms> = {
  kind: 'credit-line',
  amount: 0,
  creditLine: { limit: 200_000, unusedFee: percent('1.7') },
};

describe('interest that the books carry where nothing is rounded', () => {
  // The cash of the books is what was paid, rounded once, and never drifts from it; balances are those that are shown.
  it.each<[string, LoanSchedule]>([
    ['level', built([level(12)])],
    ['drawn on', built(waiting, { events: [draw, { type: 'interest-added', on: day('2025-03-11') }] })],
    [
      'missed and late',
      built([level(7)], {
        events: [paid('2025-02-01', '2025-02-01', 0), paid('2025-03-01', '2025-03-11', 20_000)],
      }),
    ],
    [
      'overpaid',
      built([level(3)], {
        events: [
          paid('2025-04-01', '2025-04-01', 50_000),
          { type: 'overpayment-returned', on: day('2025-04-11'), amount: 1_234 },
        ],
      }),
    ],
    [
      'with extras',
      built([level(12)], {
        events: [{ type: 'extra-principal', on: day('2025-03-17'), amount: 12_345, then: 'shorten' }],
      }),
    ],
    ['a credit line', built(waiting, { ...line, events: [draw, paid('2025-04-01', '2025-04-01', 100)] })],
  ])('leaves what was paid to the minor unit, row by row: %s', (_, schedule) => {
    const { terms, length, exact, closing, unpaid, overpaid, added, fee } = schedule;
    if (!exact) throw new Error('rounded');
    const booked = bookedInterest(schedule);
    // Unrounded amounts are kept in 10^30 parts of a minor unit.
    const grains = 1e30;
    let [interest, fees, drawn, cash] = [0, 0, 0, 0];
    for (let row = 0; row < length; row += 1) {
      const of = (column: Float64Array): number => column[row] as number;
      interest += booked[row] as number;
      fees += of(fee);
      if (kindOfRow(schedule, row) === 'draw') drawn += of(added);
      cash += Number((exact.payment[row] as bigint) + (exact.extra[row] as bigint)) / grains;
      // What is owed, and overpaid, is what was drawn and charged less what was paid.
      const owed = of(closing) + of(unpaid) - of(overpaid);
      const gone = terms.amount + drawn + interest + fees - owed;
      expect(Math.abs(gone - cash - Number(exact.overpaid[row]) / grains), `row ${row}`).toBeLessThanOrEqual(
        0.5 + 1e-6,
      );
    }
    expect(
      Math.abs(interest - exact.interest.reduce((sum, each) => sum + Number(each) / grains, 0)),
    ).toBeLessThan(1);
  });

  it('is the column itself where the interest is rounded', () => {
    const schedule = buildLoanSchedule(thousand([level(12)]));
    expect(bookedInterest(schedule)).toBe(schedule.interest);
  });
});

describe('an estimate of interest', () => {
  const steps = (step: number, ...estimates: readonly number[]): number | undefined =>
    estimatedSteps(
      estimates.map((estimate) => ({ estimate }) as InterestSegment),
      step,
    );

  it('settles the rounding where it is clear of a half, by steps of any size', () => {
    expect([steps(1), steps(1, 0.4), steps(1, 0.6), steps(1, 123.4, 0.2)]).toEqual([0, 0, 1, 124]);
    expect([steps(100, 149), steps(100, 151), steps(100, 20, 20)]).toEqual([1, 2, 0]);
  });

  it('settles none that it may be wrong about: near a half, below nothing, or too large', () => {
    expect([steps(1, 0.5), steps(1, 100.5), steps(1, 1e6 + 0.5), steps(100, 50)]).toEqual([
      undefined,
      undefined,
      undefined,
      undefined,
    ]);
    // Its error is one part in 2^40 of the interest.
    expect([steps(1, 2 ** 30 + 0.5 + 2 ** -12), steps(1, 2 ** 30 + 0.5 + 2 ** -8)]).toEqual([
      undefined,
      2 ** 30 + 1,
    ]);
    expect([steps(1, -1, 3), steps(1, 2 ** 40), steps(100, 2 ** 41)]).toEqual([
      undefined,
      undefined,
      Math.floor(2 ** 41 / 100 + 0.5),
    ]);
  });
});
