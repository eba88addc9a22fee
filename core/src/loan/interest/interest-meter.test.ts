import { describe, expect, it } from 'vitest';
import { formatDay } from '../../calendar/calendar-day.ts';
import { draw, extra, paid, withEvents } from '../../testing/loan-events.ts';
import { day, percent, rowsOf, thousand } from '../../testing/plain-loan.ts';
import type { LoanTerms, Phase } from '../terms/loan-terms.ts';

const waiting: readonly Phase[] = [{ type: 'interest-only', count: 6 }];
/** 1,000.00 at 12 % by actual days; what falls due on each day for interest. */
const interestOf = (more: Partial<LoanTerms>): [string, number][] =>
  rowsOf(thousand(waiting, { dayCount: 'ACT/365F', ...more }))
    .filter(({ interest }) => interest !== 0)
    .map(({ date, interest }) => [formatDay(date), interest]);

describe('interest that has run since it was last charged', () => {
  /** All is repaid with the payment of 1 February but its interest, 10.19, which comes ten days later. */
  const interestLast = [
    paid('2025-02-01', '2025-02-01', 0),
    extra('2025-02-01', 100_000),
    paid('2025-02-01', '2025-02-11', 1_019),
  ];

  it('is none where only interest was owed, and the loan ends with it', () => {
    const rows = rowsOf(thousand(waiting, { dayCount: 'ACT/365F', ...withEvents(...interestLast) }));
    expect(rows.map(({ date, closing }) => [formatDay(date), closing])).toEqual([
      ['2025-02-01', 0],
      ['2025-02-11', 0],
    ]);
  });

  it('is due though nothing was owed when it was last charged, and what was drawn is repaid', () => {
    const events = [draw('2025-02-05', 100_000), extra('2025-02-15', 100_000)];
    // 1,000 · 12 % · 10 ÷ 365 = 3.29.
    expect(interestOf(withEvents(...interestLast, ...events))).toEqual([
      ['2025-02-01', 1_019],
      ['2025-03-01', 329],
    ]);
  });

  it('is counted at the rate of its days where the rate changes on the day that a period begins', () => {
    const rateSteps = [{ from: day('2025-03-01'), annualRate: percent('24'), payment: 'keep' as const }];
    // 28 days of February at 12 %, then 31 of March at 24 %.
    expect(interestOf({ rateSteps }).slice(1, 3)).toEqual([
      ['2025-03-01', 921],
      ['2025-04-01', 2_038],
    ]);
  });

  it('is not charged a second time with a payment that comes late', () => {
    const events = withEvents(paid('2025-02-01', '2025-02-11', 1_019));
    expect(interestOf(events).slice(0, 2)).toEqual([
      ['2025-02-01', 1_019],
      ['2025-03-01', 921],
    ]);
  });
});
