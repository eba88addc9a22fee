import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ratio } from '../../money/ratio.ts';
import type { Ties } from '../../money/round-ratio.ts';
import { arbitraryLoan, arbitraryLoanWithEvents } from '../../testing/arbitrary-loan.ts';
import { level, plainLoan } from '../../testing/plain-loan.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import type { LoanTerms, Phase } from '../terms/loan-terms.ts';
import { buildLoanSchedule } from './build-loan-schedule.ts';
import { loanRows, type LoanSchedule } from './loan-schedule.ts';
import { LoanWalk } from './loan-walk.ts';

/** Loans of which most rows are plain: level, fixed, equal principal and interest only, at any rounding and rate. */
const mostlyPlain: fc.Arbitrary<LoanTerms> = fc
  .record({
    amount: fc.integer({ min: 1_000, max: 10 ** 12 }),
    annualRate: fc.integer({ min: 0, max: 4_000 }).map((at) => ratio(BigInt(at), 10_000n)),
    dayCount: fc.constantFrom('even-periods', 'ACT/365F', 'ACT/360', '30/360', 'ACT/ACT-ISDA'),
    every: fc.constantFrom('month', 'quarter', 'half-year', 'week'),
    phases: fc.array(
      fc.oneof(
        fc.integer({ min: 1, max: 90 }).map((count): Phase => level(count)),
        fc.integer({ min: 1, max: 90 }).map((count): Phase => ({ type: 'equal-principal', count })),
        fc.integer({ min: 1, max: 30 }).map((count): Phase => ({ type: 'interest-only', count })),
      ),
      { minLength: 1, maxLength: 3 },
    ),
    ties: fc.constantFrom<Ties>('away-from-zero', 'even'),
    interest: fc.constantFrom<LoanTerms['rounding']['interest']>('cent', 'unit'),
  })
  .map(({ phases, ties, interest, ...more }) =>
    plainLoan(phases, { ...more, rounding: { interest, payment: 'cent', ties } }),
  );

/** Extra principal of days that never come: where a payment may take some with it no row is written the quick way. */
const never: LoanEvent = {
  type: 'extra-each-payment',
  from: 200_000,
  to: 200_001,
  amount: 1,
  then: 'shorten',
};
const walked = ({ terms, stretches, rates }: LoanSchedule, ...more: readonly LoanEvent[]): LoanSchedule =>
  new LoanWalk({ ...terms, events: [...terms.events, ...more] }, stretches, rates).run();

describe('rows written many at once', () => {
  it('are those that the general rules write one by one, whatever happens between them', () => {
    fc.assert(
      fc.property(fc.oneof(mostlyPlain, arbitraryLoan, arbitraryLoanWithEvents), (terms) => {
        const built = buildLoanSchedule(terms);
        const [quick, slow] = [walked(built), walked(built, never)];
        expect(loanRows(quick)).toEqual(loanRows(slow));
        expect([...quick.chargedTo.subarray(0, quick.length)]).toEqual([
          ...slow.chargedTo.subarray(0, slow.length),
        ]);
        expect([...quick.setting.subarray(0, quick.length)]).toEqual([
          ...slow.setting.subarray(0, slow.length),
        ]);
        expect(quick.notices).toEqual(slow.notices);
      }),
      { numRuns: 400 },
    );
  });
});
