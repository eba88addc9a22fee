import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arbitraryLoanWithEvents, canBeScheduled } from '../testing/arbitrary-loan.ts';
import { day, level, percent, plainLoan, rowsOf, thousand } from '../testing/plain-loan.ts';
import { bookedInterest } from './interest/booked-interest.ts';
import { buildLoanSchedule } from './schedule/build-loan-schedule.ts';
import type { LoanEvent } from './terms/loan-events.ts';
import type { LoanRounding, LoanTerms } from './terms/loan-terms.ts';

const unrounded: LoanRounding = { interest: 'none', payment: 'none', ties: 'away-from-zero' };
const toTheCent: LoanRounding = { ...unrounded, interest: 'cent', payment: 'cent' };

describe('what is not rounded', () => {
  // Rounding moves cents, however an amount is kept: each row stands beside that of the same loan rounded to the cent.
  it('stands within cents of what is, row by row', () => {
    const drawn = arbitraryLoanWithEvents
      .map(
        (terms) =>
          [
            { ...terms, rounding: unrounded },
            { ...terms, rounding: toTheCent },
          ] as const,
      )
      .filter((both) => both.every(canBeScheduled));
    fc.assert(
      fc.property(drawn, ([exact, rounded]) => {
        const [one, other] = [rowsOf(exact), rowsOf(rounded)];
        one.slice(0, Math.min(one.length, other.length, 12) - 1).forEach((row, at) => {
          const beside = other[at];
          // A cent may decide whether something is left over that is cut, paid or told.
          if (beside === undefined || beside.kind !== row.kind || row.closing === 0) return;
          // A cent a row, which at the dearest rates grows to a few dozen in twelve years.
          const near = 200 + Math.abs(row.closing) / 1e9;
          for (const key of ['interest', 'fee', 'payment', 'closing', 'unpaid'] as const)
            expect(Math.abs(row[key] - beside[key]), `${key} of row ${at}`).toBeLessThan(near);
        });
      }),
      { numRuns: 150 },
    );
  });

  // Common practice: the books carry whole cents, and interest takes what rounding leaves.
  it('is booked within a cent of what is shown, whatever is drawn, billed or overpaid', () => {
    const line: LoanTerms = plainLoan([{ type: 'interest-only', count: 6 }], {
      amount: 0,
      rounding: unrounded,
      dayCount: 'ACT/360',
      creditLine: { limit: 1_000_000, unusedFee: percent('0.7') },
      events: [
        { type: 'draw', on: day('2024-01-20'), amount: 333_333, then: 'keep' },
        { type: 'draw', on: day('2024-03-03'), amount: 123_457, then: 'keep' },
        { type: 'paid', due: day('2024-05-15'), on: day('2024-05-15'), amount: 900_000 },
        { type: 'overpayment-returned', on: day('2024-05-20'), amount: 100_000 },
      ],
    });
    const loan = thousand([level(5)], {
      rounding: unrounded,
      events: [{ type: 'draw', on: day('2025-02-10'), amount: 12_345, then: 're-level' }],
    });
    for (const terms of [line, loan]) {
      const schedule = buildLoanSchedule(terms);
      const booked = bookedInterest(schedule);
      rowsOf(terms).forEach(({ interest }, at) => {
        expect(Math.abs((booked[at] ?? 0) - interest), `row ${at}`).toBeLessThanOrEqual(1);
      });
    }
    expect(rowsOf(line).some(({ fee }) => fee > 0)).toBe(true);
    expect(buildLoanSchedule(line).overpaid.some((over) => over > 0)).toBe(true);
  });

  it('bills the fee of a credit line in whole cents, as what is rounded does', () => {
    const bills = (rounding: LoanRounding): number[] =>
      rowsOf(
        plainLoan([{ type: 'interest-only', count: 3 }], {
          amount: 0,
          rounding,
          dayCount: 'ACT/360',
          creditLine: { limit: 1_000_000, unusedFee: percent('0.7') },
          events: [{ type: 'draw', on: day('2024-01-15'), amount: 400_000, then: 'keep' }],
        }),
      ).map(({ fee }) => fee);
    // 6,000.00 not drawn at 0.7 %: 31, 29 and 31 days of 360.
    const days = [0, 31, 29, 31].map((each) => Math.round((600_000 * 0.007 * each) / 360));
    expect([bills(toTheCent), bills(unrounded)]).toEqual([days, days]);
  });

  it('earns interest on what had accrued before the loan was taken on, as what is rounded does', () => {
    const first = (rounding: LoanRounding): number | undefined =>
      rowsOf(
        thousand([level(3)], {
          rounding,
          compounding: 'daily',
          dayCount: 'ACT/365F',
          takenOn: { accruedInterest: 2_000 },
        }),
      )[0]?.interest;
    // The 20.00, and what 1,020.00 earns in 31 days at 12 % compounded daily.
    expect(first(toTheCent)).toBe(2_000 + Math.round(102_000 * ((1 + 0.12 / 365) ** 31 - 1)));
    expect(first(unrounded)).toBe(first(toTheCent));
  });
});

describe('interest of a loan', () => {
  // 36 % by actual days over 360: a day costs 1.00 for each 1,000.00 owed at its end.
  const daily: Partial<LoanTerms> = { annualRate: percent('36'), dayCount: 'ACT/360' };
  const draw = (on: string): LoanEvent => ({ type: 'draw', on: day(on), amount: 100_000, then: 'keep' });

  // The 1st of February and of March 2025 are Saturdays: payments move to the Monday, interest runs to the Saturday.
  it('counts from the day of a draw, between an agreed day and the one that its payment moved to as well', () => {
    const interest = (on: string): number[] =>
      rowsOf(
        thousand([{ type: 'interest-only', count: 3 }], {
          ...daily,
          businessDays: { rule: 'following', calendar: 'weekends', accrual: 'unmoved' },
          events: [draw(on)],
        }),
      )
        .filter(({ kind }) => kind === 'payment')
        .map((row) => row.interest);
    expect(interest('2025-01-31')).toEqual([3_200, 5_600, 6_200]);
    expect(interest('2025-02-01')).toEqual([3_100, 5_600, 6_200]);
    expect(interest('2025-02-02')).toEqual([3_100, 5_500, 6_200]);
    expect(interest('2025-02-03')).toEqual([3_100, 5_400, 6_200]);
    expect(interest('2025-02-04')).toEqual([3_100, 5_300, 6_200]);
  });

  it('goes on after the last due date by whole months, whatever stretches came before', () => {
    const missed = (due: string): LoanEvent => ({ type: 'paid', due: day(due), on: day(due), amount: 0 });
    const paid: LoanEvent = { type: 'paid', due: day('2025-04-01'), on: day('2026-01-01'), amount: 200_000 };
    const late = (phases: LoanTerms['phases'], more: Partial<LoanTerms> = {}): number | undefined =>
      rowsOf(thousand(phases, { events: [missed('2025-04-01'), paid], ...more })).findLast(
        ({ interest }) => interest > 0,
      )?.interest;
    // 1,000.00 owed from 1 April to 1 January at 1 % a month.
    expect(late([{ type: 'interest-only', count: 3 }])).toBe(9_000);
    expect(
      late([
        { type: 'interest-only', count: 1 },
        { type: 'interest-only', count: 2 },
      ]),
    ).toBe(9_000);
    const listed = [1, 2, 3].map((at) => ({ on: day(`2025-0${at + 1}-01`), amount: 1_000 }));
    expect(late([{ type: 'custom', payments: listed }])).toBe(9_000);
  });

  it('is no more once all is paid, and nothing is due any more', () => {
    const events: LoanEvent[] = [
      { type: 'paid', due: day('2025-03-01'), on: day('2025-03-01'), amount: 150_000 },
      { type: 'overpayment-returned', on: day('2025-03-20'), amount: 1_000 },
    ];
    const rows = rowsOf(thousand([level(5)], { events }));
    expect(rows.map(({ kind }) => kind)).toEqual(['payment', 'payment', 'overpayment-returned']);
  });
});
