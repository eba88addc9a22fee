import { describe, expect, it } from 'vitest';
import type { Schedule } from '../kinds/schedules.ts';
import { buildLoanSchedule } from '../loan/schedule/build-loan-schedule.ts';
import type { LoanEvent } from '../loan/terms/loan-events.ts';
import type { LoanTerms, Phase } from '../loan/terms/loan-terms.ts';
import { day, percent, thousand } from '../testing/plain-loan.ts';
import { addBasis, averagesOf, reasonsOf, type InterestBasis } from './interest-basis.ts';
import { whyChanged, type ComparedFigure } from './why-changed.ts';

// 1,000.00 at 36 % by actual days over 360: a day costs 1.00.
const loan = (
  more: Partial<LoanTerms> = {},
  phases: Phase[] = [{ type: 'interest-only', count: 8 }],
): Schedule =>
  buildLoanSchedule(
    thousand(phases, {
      annualRate: percent('36'),
      dayCount: 'ACT/360',
      every: 'quarter',
      start: day('2024-12-15'),
      first: day('2025-04-01'),
      ...more,
    }),
  );
const told = (schedule: Schedule, end: string, figure: ComparedFigure): unknown => {
  const { before, now, parts } = whyChanged(schedule, day(end))[figure];
  return [before, now, Object.fromEntries(parts.map(({ reason, amount }) => [reason, amount]))];
};

describe('a month beside the month before', () => {
  it('has its own days, from month end to month end', () => {
    // Accrued to 31 January are 47 days, to 28 February 75; January has 31 of them and February 28.
    expect(told(loan(), '2025-02-28', 'accrued')).toEqual([4_700, 7_500, { days: 2_800 }]);
    expect(told(loan(), '2025-02-28', 'expense')).toEqual([3_100, 2_800, { days: -300 }]);
    expect(told(loan(), '2025-03-31', 'expense')).toEqual([2_800, 3_100, { days: 300 }]);
    // What is due on 1 April is no longer accrued at the end of it.
    expect(told(loan(), '2025-04-30', 'accrued')).toEqual([10_600, 2_900, { days: -7_700 }]);
    expect(whyChanged(loan(), day('2025-02-28')).expense.over).toEqual([
      { balance: expect.closeTo(100_000, 6), rate: expect.closeTo(0.36, 12), days: 31 },
      { balance: expect.closeTo(100_000, 6), rate: expect.closeTo(0.36, 12), days: 28 },
    ]);
    expect('over' in whyChanged(loan(), day('2025-02-28')).carrying).toBe(false);
  });

  it('tells what was drawn and paid apart from the days', () => {
    const draw: LoanEvent = { type: 'draw', on: day('2025-02-28'), amount: 50_000, then: 'keep' };
    const paid: LoanEvent = {
      type: 'extra-principal',
      on: day('2025-01-31'),
      amount: 20_000,
      then: 'shorten',
    };
    // On the last day of a month it is of that month; on the last of the month before it is not.
    expect(told(loan({ events: [draw] }), '2025-02-28', 'carrying')).toEqual([
      100_000,
      150_000,
      { drawn: 50_000 },
    ]);
    expect(told(loan({ events: [draw] }), '2025-03-31', 'carrying')).toEqual([150_000, 150_000, {}]);
    expect(told(loan({ events: [paid] }), '2025-02-28', 'carrying')).toEqual([80_000, 80_000, {}]);
    expect(told(loan({ events: [draw, paid] }), '2025-02-28', 'carrying')).toEqual([
      80_000,
      130_000,
      { drawn: 50_000 },
    ]);
  });

  it('tells a renewal, a payment that came late and one that did not come by their causes', () => {
    const happened = (schedule: Schedule, end: string): unknown => {
      const { happened, undisturbed, rates } = whyChanged(schedule, day(end));
      return [happened, undisturbed, rates];
    };
    const parts: Phase[] = [{ type: 'equal-principal', count: 8 }];
    const due = day('2025-04-01');
    const late = loan({ events: [{ type: 'paid', due, on: day('2025-05-10'), amount: 23_200 }] }, parts);
    expect(told(late, '2025-05-31', 'carrying')).toEqual([100_000, 87_500, { 'paid-late': -12_500 }]);
    expect(happened(late, '2025-05-31')).toEqual([['paid-late'], false, undefined]);
    const missed = loan({ events: [{ type: 'paid', due, on: due, amount: 0 }] }, parts);
    expect(happened(missed, '2025-04-30')).toEqual([['missed'], false, undefined]);
    const paid = loan({}, parts);
    expect(told(paid, '2025-04-30', 'carrying')).toEqual([100_000, 87_500, { paid: -12_500 }]);
    expect(happened(paid, '2025-04-30')).toEqual([['paid'], true, undefined]);
    expect(happened(paid, '2025-05-31')).toEqual([[], true, undefined]);
    const renewal: LoanEvent = {
      type: 'renewal',
      on: day('2025-04-15'),
      annualRate: percent('18'),
      count: 4,
      amortizeOver: 24,
    };
    const renewed = loan({ events: [renewal], atEnd: 'leave' });
    expect(happened(renewed, '2025-04-30')).toEqual([['renewed', 'paid'], false, [0.36, 0.18]]);
  });

  it('tells of a fee on what is not drawn, and of what fell due and was not paid', () => {
    const line = loan({
      amount: 0,
      creditLine: { limit: 100_000, unusedFee: percent('3.6') },
      start: day('2025-01-01'),
      first: day('2025-12-31'),
      every: 'year',
    });
    // 1,000.00 not drawn at 3.6 %: 0.10 a day, of 30 days and of 58.
    expect(told(line, '2025-02-28', 'accrued')).toEqual([300, 580, { fee: 280 }]);
    const missed: LoanEvent = { type: 'paid', due: day('2025-04-01'), on: day('2025-04-01'), amount: 0 };
    expect(told(loan({ events: [missed] }), '2025-04-30', 'accrued')).toEqual([
      10_600,
      13_600,
      { days: -7_700, arrears: 10_700 },
    ]);
  });

  it('counts what had accrued before the loan was taken on to the days', () => {
    const taken = loan({ takenOn: { accruedInterest: 1_200 } });
    expect(told(taken, '2025-02-28', 'accrued')).toEqual([5_900, 8_700, { days: 2_800 }]);
    expect(told(taken, '2025-04-30', 'accrued')).toEqual([11_800, 2_900, { days: -8_900 }]);
  });

  // What another month brings within the year: on 29 February 2024 a payment of the year from 28 February 2023 falls due.
  it('brings another month within a year, month end by month end', () => {
    const parts = loan(
      { start: day('2022-12-31'), first: day('2023-01-31'), keepMonthEnd: true, every: 'month' },
      [{ type: 'equal-principal', count: 50 }],
    );
    expect(told(parts, '2023-03-31', 'current')).toEqual([24_000, 24_000, { balance: -2_000, days: 2_000 }]);
    expect(told(parts, '2023-02-28', 'current')).toEqual([24_000, 24_000, { balance: -2_000, days: 2_000 }]);
    // Nothing was owed before it began.
    const [, now] = told(parts, '2022-12-31', 'current') as [number, number];
    expect(now).toBe(24_000);
  });
});

describe('interest by its reasons', () => {
  const basis = (days: number, balance: number, rate: number): InterestBasis => ({
    days,
    years: days / 360,
    balanceYears: (balance * days) / 360,
    rateYears: (rate * days) / 360,
    interest: (balance * rate * days) / 360,
    rounding: 1,
  });
  const reasons = (before: InterestBasis, now: InterestBasis): number[] =>
    Object.values(reasonsOf(before, now)).map((amount: number) => Math.round(amount * 1e6) / 1e6 + 0);

  // Price before quantity (common practice of variance analysis): the rate on what was, the balance at the rate that is.
  it('is the rate on the balance before, then the balance, then the days', () => {
    const [was, is] = [basis(30, 100_000, 0.36), basis(31, 150_000, 0.18)];
    // Half of 30.00; half again as much of 15.00; one day of 0.75.
    expect(reasons(was, is)).toEqual([-1_500, 750, 75]);
    expect(reasons(was, basis(30, 150_000, 0.36))).toEqual([0, 1_500, 0]);
    expect(reasons(basis(30, 0, 0.36), basis(30, 100_000, 0.18))).toEqual([0, 1_500, 0]);
    expect(reasons(was, basis(30, 0, 0.18))).toEqual([-1_500, -1_500, 0]);
    // Nothing before, or nothing now, is all days.
    expect(reasons(basis(0, 0, 0), is)).toEqual([0, 0, 2_325]);
    expect(reasons(was, basis(0, 0, 0))).toEqual([0, 0, -3_000]);
  });

  it('is worked out over sums, of which one is taken from another', () => {
    const both = addBasis(basis(30, 100_000, 0.36), basis(10, 200_000, 0.18));
    expect(both.days).toBe(40);
    expect(averagesOf(both)).toEqual({
      balance: expect.closeTo(125_000, 6),
      rate: expect.closeTo(0.315, 12),
      days: 40,
    });
    const less = addBasis(both, basis(10, 200_000, 0.18), -1);
    expect([less.days, less.rounding, averagesOf(less)]).toEqual([
      30,
      3,
      { balance: expect.closeTo(100_000, 6), rate: expect.closeTo(0.36, 12), days: 30 },
    ]);
    expect(averagesOf(basis(0, 5, 0.1))).toEqual({ balance: 0, rate: 0, days: 0 });
  });
});
