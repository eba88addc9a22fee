import { describe, expect, it } from 'vitest';
import { withEvents } from '../../testing/loan-events.ts';
import { day, level, thousand } from '../../testing/plain-loan.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import type { LoanTerms, Phase } from '../terms/loan-terms.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import type { LoanSchedule } from '../schedule/loan-schedule.ts';
import { balanceCurve, loanOutcome } from './loan-outcome.ts';

const built = (more: Partial<LoanTerms> = {}, phases: readonly Phase[] = [level(4)]): LoanSchedule =>
  buildLoanSchedule(thousand(phases, more));
const draw: LoanEvent = { type: 'draw', on: day('2025-02-11'), amount: 10_000, then: 'keep' };
const waiting: readonly Phase[] = [{ type: 'interest-only', count: 4 }];

// 1,000.00 at 1 % a month from New Year 2025 in four payments of 256.28.
describe('what a loan comes to', () => {
  it('is its last payment set, its payments, interest and what is left', () => {
    // 256.28 three times and 256.29: interest of 10.00, 7.54, 5.05 and 2.54.
    expect(loanOutcome(built())).toEqual({
      ...{ payment: 25_628, payments: 4, interest: 2_513, paid: 102_513, last: day('2025-05-01'), left: 0 },
    });
    const extra: LoanEvent = {
      type: 'extra-principal',
      on: day('2025-03-01'),
      amount: 10_000,
      then: 're-level',
    };
    const anew = loanOutcome(built(withEvents(extra)));
    // 404.98 over two at 1 %: 205.53; interest 4.05 and, of 203.50, 2.04.
    expect(anew).toMatchObject({ payment: 20_553, payments: 4, interest: 1_000 + 754 + 405 + 204, left: 0 });
    expect(anew.paid).toBe(100_000 + anew.interest);
    expect(loanOutcome(built({}, waiting))).toMatchObject({
      payment: undefined,
      interest: 4_000,
      paid: 104_000,
    });
    expect(loanOutcome(built({ atEnd: 'leave' }, waiting))).toMatchObject({ left: 100_000, paid: 4_000 });
  });

  it('is owed day by day as rows change it, once on each day', () => {
    const curve = (schedule: LoanSchedule): unknown[] =>
      balanceCurve(schedule).map(({ on, balance }) => [on, balance]);
    expect(curve(built())).toEqual([
      [day('2025-01-01'), 100_000],
      [day('2025-02-01'), 75_372],
      [day('2025-03-01'), 50_498],
      [day('2025-04-01'), 25_375],
      [day('2025-05-01'), 0],
    ]);
    const drawn = built(withEvents({ ...draw, on: day('2025-02-01') }));
    expect(curve(drawn).slice(0, 2)).toEqual([
      [day('2025-01-01'), 100_000],
      [day('2025-02-01'), 85_372],
    ]);
    // In advance the first payment is made as the loan begins.
    const ahead = built({ due: 'start', first: day('2025-01-01') });
    expect(curve(ahead)[0]).toEqual([day('2025-01-01'), ahead.closing[0]]);
  });
});
