import { describe, expect, it } from 'vitest';
import { TermsFault } from '../../faults/terms-fault.ts';
import { settled } from '../../testing/loan-events.ts';
import { day, level, percent, thousand } from '../../testing/plain-loan.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import type { LoanEvent } from './loan-events.ts';
import type { LoanTerms, Phase } from './loan-terms.ts';

/** The key and the words of what is refused; nothing where it is not. */
const refused = (phases: readonly Phase[], more: Partial<LoanTerms> = {}): string => {
  try {
    buildLoanSchedule(thousand(phases, more));
    return '';
  } catch (error) {
    if (error instanceof TermsFault) return `${error.key}: ${error.message}`;
    throw error;
  }
};
const plain = (more: Partial<LoanTerms>): string => refused([level(5)], more);
const happening = (...events: LoanEvent[]): string => plain({ events });
const listed = (...days: string[]): Phase => ({
  type: 'custom',
  payments: days.map((on) => ({ on: day(on), amount: 10_000 })),
});

// Each rule at its bound, and beyond it. The loan starts on 1 January 2025 and is first due on 1 February.
describe('terms that no loan has', () => {
  it('of its amount and costs', () => {
    expect(plain({ amount: 0 })).toMatch(/^amount: .*more than zero/);
    const costs = (amount: number, more: Partial<LoanTerms> = {}): string =>
      plain({ issueCosts: { amount, method: 'straight-line' }, ...more });
    expect(costs(99_999)).toBe('');
    expect(costs(100_000)).toMatch(/^issueCosts\.amount: .*leave nothing/);
    expect(costs(100_000, { takenOn: { accruedInterest: 1 } })).toBe('');
    expect(costs(100_001, { takenOn: { accruedInterest: 1 } })).toMatch(/^issueCosts\.amount/);
    const line = { amount: 0, creditLine: { limit: 50_000, unusedFee: percent('1') } };
    const billed: Phase[] = [{ type: 'interest-only', count: 3 }];
    expect(refused(billed, line)).toBe('');
    expect(refused(billed, { ...line, issueCosts: { amount: 100_000, method: 'straight-line' } })).toBe('');
    expect(refused(billed, { ...line, issueCosts: { amount: 10, method: 'effective' } })).toMatch(
      /^issueCosts\.method/,
    );
  });

  it('of its first and last due dates', () => {
    expect(plain({ first: day('2025-01-02') })).toBe('');
    expect(plain({ first: day('2025-01-01') })).toMatch(
      /^payments\.first: .*not after the start, 2025-01-01/,
    );
    expect(plain({ first: day('2025-01-01'), due: 'start' })).toBe('');
    expect(plain({ first: day('2025-01-02'), due: 'start' })).toMatch(/^payments\.first: .*found 2025-01-02/);
    expect(plain({ first: day('2024-12-31'), due: 'start' })).toMatch(/^payments\.first/);
    // The fifth payment falls due on a day of its own, after the fourth.
    expect(plain({ last: day('2025-05-02') })).toBe('');
    expect(plain({ last: day('2025-05-01') })).toMatch(
      /^payments\.last: .*after the one before it, 2025-05-01/,
    );
    expect(plain({ last: day('2025-02-01') })).toMatch(/^payments\.last: .*after the first, 2025-02-01/);
    expect(refused([level(1)], { last: day('2025-02-02') })).toBe('');
  });

  it('of its stretches', () => {
    expect(refused([])).toMatch(/^payments\.phases: .*at least one/);
    const fixed: Phase = { type: 'fixed', payment: 30_000 };
    expect(refused([{ type: 'interest-only', count: 1 }, fixed])).toBe('');
    expect(refused([fixed, level(5)])).toMatch(/^payments\.phases\.0\.count: .*must come last/);
    expect(refused([{ ...fixed, count: 2 }, level(5)])).toBe('');
    expect(refused([level(5, 5)])).toBe('');
    expect(refused([level(1), level(5, 4)])).toMatch(
      /^payments\.phases\.1\.amortizeOver: Spread over 4 .* its 5 .* give 5/,
    );
    expect(refused([{ ...level(5, 6), balloon: 10 } as Phase])).toMatch(/^payments\.phases\.0\.balloon/);
    expect(refused([{ ...level(5, 5), balloon: 10 } as Phase])).toBe('');
    expect(refused([level(1, 1_200)])).toBe('');
    expect(refused([level(1, 1_201)])).toMatch(/^payments\.phases\.0\.amortizeOver: At most 1200/);
    expect(refused([{ type: 'interest-only', count: 1_000 }, level(200)])).toBe('');
    expect(refused([{ type: 'interest-only', count: 1_000 }, level(201)])).toMatch(
      /^payments\.phases\.1\.count: .*at most 1200 payments; these are 1201/,
    );
  });

  it('of listed payments', () => {
    expect(refused([listed()])).toMatch(/^payments\.phases\.0\.payments: List at least one/);
    expect(refused([listed('2025-01-02', '2025-01-03')])).toBe('');
    expect(refused([listed('2025-01-01')])).toMatch(
      /^payments\.phases\.0\.payments\.0\.on: The first listed payment/,
    );
    expect(refused([listed('2025-01-01')], { due: 'start', first: day('2025-01-01') })).toBe('');
    expect(refused([listed('2024-12-31')], { due: 'start', first: day('2025-01-01') })).toMatch(
      /payments\.0\.on/,
    );
    expect(refused([listed('2025-02-01', '2025-02-01')])).toMatch(
      /^payments\.phases\.0\.payments\.1\.on: .*2025-02-01 is not after 2025-02-01/,
    );
    // After a stretch whose last payment is due on 1 February.
    const after = (on: string): string => refused([{ type: 'interest-only', count: 1 }, listed(on)]);
    expect(after('2025-02-02')).toBe('');
    expect(after('2025-02-01')).toMatch(
      /^payments\.phases\.1\.payments\.0\.on: .*runs to 2025-02-01: the two overlap/,
    );
  });

  it('of closed days that leave two payments on one', () => {
    const closed = (...days: string[]): string =>
      refused([level(5)], {
        every: 'week',
        first: day('2025-02-03'),
        businessDays: {
          rule: 'following',
          calendar: 'weekends',
          accrual: 'moved',
          closed: new Set(days.map(day)),
        },
      });
    const week = ['2025-02-03', '2025-02-04', '2025-02-05', '2025-02-06', '2025-02-07'];
    expect(closed(...week.slice(0, 4))).toBe('');
    expect(closed(...week)).toMatch(/^payments\.businessDays\.closed: .*fall on 2025-02-10/);
  });

  it('of what happens to it', () => {
    const fee = (on: string): LoanEvent => ({ type: 'fee', on: day(on), amount: 10, treatment: 'expense' });
    expect(happening(fee('2025-01-01'))).toBe('');
    expect(happening(fee('2024-12-31'))).toMatch(
      /^events\.0\.on: This is before the loan starts, 2025-01-01/,
    );
    const each = (from: string): LoanEvent => ({
      type: 'extra-each-payment',
      from: day(from),
      to: day('2025-05-01'),
      amount: 10,
      then: 'shorten',
    });
    expect(happening(each('2025-01-01'))).toBe('');
    expect(happening(fee('2025-01-05'), each('2024-12-31'))).toMatch(/^events\.1\.from: This is before/);
    expect(happening(settled('2025-03-10'))).toBe('');
    expect(happening(settled('2025-03-10'), settled('2025-03-10'))).toMatch(
      /^events\.1\.on: A loan is settled once/,
    );
    expect(happening(fee('2025-03-10'), settled('2025-03-10'))).toBe('');
    expect(happening(fee('2025-03-11'), settled('2025-03-10'))).toMatch(
      /^events\.0\.on: .*after the loan is settled, 2025-03-10/,
    );
  });

  it('of renewals', () => {
    const renewal = (count: number, amortizeOver: number): LoanEvent => ({
      type: 'renewal',
      on: day('2025-03-01'),
      annualRate: percent('6'),
      count,
      amortizeOver,
    });
    expect(happening(renewal(5, 5))).toBe('');
    expect(happening(renewal(5, 4))).toMatch(/^events\.0\.amortizeOver: Spread over 4 .*its 5 .*give 5/);
    const line = { amount: 0, creditLine: { limit: 50_000, unusedFee: percent('1') } };
    expect(refused([{ type: 'interest-only', count: 3 }], { ...line, events: [renewal(5, 5)] })).toMatch(
      /^events\.0: A credit line is not renewed/,
    );
  });
});
