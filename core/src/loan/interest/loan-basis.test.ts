import { describe, expect, it } from 'vitest';
import { noBasis, type InterestBasis } from '../../change/interest-basis.ts';
import { day, percent, thousand } from '../../testing/plain-loan.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import { loanAccruedBasis, loanInterestBasis } from './loan-basis.ts';

// 1,000.00 at 36 % by actual days over 360, interest alone, due on the first of each month: a day costs 1.00.
const loan = buildLoanSchedule(
  thousand([{ type: 'interest-only', count: 6 }], { annualRate: percent('36'), dayCount: 'ACT/360' }),
);
const told = ({ rounding, ...of }: InterestBasis): unknown => ({ ...of, rounding });
/** Worked out over so many days, each rounded as often as was charged or accrued. */
const over = (days: number, rounding: number): unknown => ({
  days,
  years: expect.closeTo(days / 360, 10),
  balanceYears: expect.closeTo((100_000 * days) / 360, 6),
  rateYears: expect.closeTo((0.36 * days) / 360, 10),
  interest: expect.closeTo(days * 100, 6),
  rounding,
});

describe('what interest was worked out over', () => {
  const between = (after: string, through: string): unknown =>
    told(loanInterestBasis(loan, day(after), day(through)));

  it('is what was charged in the span and what had accrued at its end, less what had before it', () => {
    expect(between('2025-01-31', '2025-02-28')).toEqual(over(28, 3));
    expect(between('2025-02-10', '2025-02-20')).toEqual(over(10, 2));
    expect(between('2025-01-01', '2025-01-31')).toEqual(over(30, 1));
  });

  // What is due on the last day of a span is of it; what is due on the day before it began is not.
  it('counts what is due on the last day, and not on the day that it follows', () => {
    expect(between('2025-01-31', '2025-02-01')).toEqual(over(1, 2));
    expect(between('2025-02-01', '2025-02-02')).toEqual(over(1, 1));
    expect(between('2025-02-01', '2025-03-01')).toEqual(over(28, 1));
  });

  it('is nothing where nothing accrues, and rounded once more where the schedule does not round', () => {
    expect(loanAccruedBasis(loan, day('2025-02-01'))).toEqual(noBasis);
    expect(loanAccruedBasis(loan, day('2024-12-31'))).toEqual(noBasis);
    const exact = buildLoanSchedule({
      ...loan.terms,
      rounding: { interest: 'none', payment: 'none', ties: 'even' },
    });
    expect(told(loanAccruedBasis(exact, day('2025-01-31')))).toEqual(over(30, 2));
    expect(told(loanAccruedBasis(loan, day('2025-01-31')))).toEqual(over(30, 1));
  });
});
