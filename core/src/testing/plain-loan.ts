import { parseDay } from '../calendar/calendar-day.ts';
import { ratio, ratioFromDecimal, type Ratio } from '../money/ratio.ts';
import { buildLoanSchedule } from '../loan/schedule/build-loan-schedule.ts';
import { loanProofs } from '../loan/schedule/loan-proofs.ts';
import { loanRows, type LoanRow } from '../loan/schedule/loan-schedule.ts';
import type { LoanTerms, Phase } from '../loan/terms/loan-terms.ts';

export const day = (text: string): number => parseDay(text) as number;
export const percent = (text: string): Ratio => {
  const { num, den } = ratioFromDecimal(text);
  return ratio(num, den * 100n);
};
export const level = (count: number, amortizeOver = count, payment?: number): Phase => ({
  type: 'level',
  count,
  amortizeOver,
  ...(payment !== undefined && { payment }),
});

/** For tests: a monthly loan of 100,000.00 at 6 %, changed as asked. */
export function plainLoan(phases: readonly Phase[], more: Partial<LoanTerms> = {}): LoanTerms {
  return {
    kind: 'loan',
    currency: 'EUR',
    digits: 2,
    amount: 10_000_000,
    start: day('2024-01-15'),
    annualRate: percent('6'),
    rateSteps: [],
    compounding: 'each-payment',
    dayCount: 'even-periods',
    every: 'month',
    first: day('2024-02-15'),
    due: 'end',
    keepMonthEnd: false,
    phases,
    atEnd: 'pay',
    rounding: { interest: 'cent', payment: 'cent', ties: 'away-from-zero' },
    events: [],
    ...more,
  };
}
export const rowsOf = (each: LoanTerms): LoanRow[] => loanRows(buildLoanSchedule(each));
export const failing = (each: LoanTerms): unknown[] =>
  loanProofs(buildLoanSchedule(each)).filter(({ holds }) => !holds);

/** 1,000.00 at 12 % from New Year 2025, monthly from 1 February, changed as asked. */
export function thousand(phases: readonly Phase[], more: Partial<LoanTerms> = {}): LoanTerms {
  return plainLoan(phases, {
    amount: 100_000,
    annualRate: percent('12'),
    start: day('2025-01-01'),
    first: day('2025-02-01'),
    ...more,
  });
}
