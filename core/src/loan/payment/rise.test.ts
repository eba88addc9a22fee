import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addMonths } from '../../calendar/calendar-day.ts';
import { ratio } from '../../money/ratio.ts';
import { day, level, percent, plainLoan } from '../../testing/plain-loan.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import type { LoanSchedule } from '../schedule/loan-schedule.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import type { FixedPhase } from '../terms/loan-terms.ts';
import { risen, wholeYears, type Rise } from './rise.ts';

const byShare = (hundredths: number): Rise => ({ by: 'share', share: ratio(BigInt(hundredths), 10_000n) });
const rising = (payment: number, rises: Rise, count?: number): FixedPhase => ({
  type: 'fixed',
  payment,
  rises,
  ...(count !== undefined && { count }),
});
const payments = ({ payment, length }: LoanSchedule): number[] => [...payment.slice(0, length)];

describe('what rises each year', () => {
  it('rises on what the year before came to, rounded as it is agreed', () => {
    // 109.2727 is 109.27; on that, not on 106.09 twice raised, the next year rests.
    const years = [0, 1, 2, 3, 4].map((year) => risen(100_00, byShare(300), year, 'away-from-zero'));
    expect(years).toEqual([100_00, 103_00, 106_09, 109_27, 112_55]);
    expect(risen(100_00, { by: 'amount', amount: 25_00 }, 3, 'even')).toBe(175_00);
    expect(risen(100_00, undefined, 9, 'even')).toBe(100_00);
    // Never more than can be kept exactly.
    expect(risen(100_00, byShare(100_000), 90, 'even')).toBe(Number.MAX_SAFE_INTEGER);
  });

  it('rises on the same day of each year, the last of February for the 29th', () => {
    const from = day('2024-02-29');
    expect(
      [day('2024-02-29'), day('2025-02-27'), day('2025-02-28'), day('2028-02-29')].map((to) =>
        wholeYears(from, to),
      ),
    ).toEqual([0, 0, 1, 4]);
  });

  // The present value of payments that grow each year: twelve at a time, each year's by (1 + g); a growing annuity as
  // textbooks of actuarial mathematics give it.
  it('repays what a growing annuity is worth', () => {
    const [monthly, growth, years] = [0.06 / 12, 0.03, 10];
    const ofYear = (1 - (1 + monthly) ** -12) / monthly;
    let worth = 0;
    for (let year = 0; year < years; year += 1) {
      worth += Math.round(1000_00 * (1 + growth) ** year) * ofYear * (1 + monthly) ** (-12 * year);
    }
    const schedule = buildLoanSchedule(
      plainLoan([rising(1000_00, byShare(300), 12 * years)], {
        amount: Math.round(worth),
        annualRate: percent('6'),
        start: day('2026-01-15'),
        first: day('2026-02-15'),
        atEnd: 'leave',
      }),
    );
    const made = payments(schedule);
    expect([made[11], made[12], made[118]]).toEqual([1000_00, 1030_00, 1304_78]);
    // Interest is rounded 120 times by half a cent at most, and payments to the cent: the last makes up for that.
    expect(Math.abs((made[119] ?? 0) - 1304_78)).toBeLessThan(300);
  });

  it('is, as an agreed payment, what the same changes stated one by one are', () => {
    const terms = fc.record({
      first: fc.integer({ min: day('2026-01-02'), max: day('2026-12-30') }),
      share: fc.integer({ min: 1, max: 1500 }),
      count: fc.integer({ min: 13, max: 90 }),
      every: fc.constantFrom('month', 'quarter', 'half-year'),
    });
    fc.assert(
      fc.property(terms, ({ first, share, count, every }) => {
        const rule = { start: first - 20, first, every, amount: 50_000_00, atEnd: 'leave' } as const;
        const rises = byShare(share);
        const made = buildLoanSchedule(plainLoan([rising(900_00, rises, count)], rule));
        const changes = Array.from({ length: 50 }, (_, at): LoanEvent => ({
          type: 'payment-change',
          on: addMonths(first, 12 * (at + 1), false),
          payment: risen(900_00, rises, at + 1, 'away-from-zero'),
        }));
        const stated = buildLoanSchedule(
          plainLoan([{ type: 'fixed', payment: 900_00, count }], { ...rule, events: changes }),
        );
        expect([payments(made), [...made.closing]]).toEqual([payments(stated), [...stated.closing]]);
      }),
    );
  });

  it('is, as extra principal, what the same stated year by year is', () => {
    const from = day('2026-06-15');
    const rule = { start: day('2026-01-15'), first: day('2026-02-15') };
    const extra = (begin: number, to: number, amount: number, rises?: Rise): LoanEvent => ({
      type: 'extra-each-payment',
      from: begin,
      to,
      amount,
      ...(rises && { rises }),
      then: 'shorten',
    });
    const last = day('2030-12-15');
    const rises = byShare(750);
    const yearly = [0, 1, 2, 3, 4].map((year) => {
      const begin = addMonths(from, 12 * year, false);
      const to = Math.min(last, addMonths(from, 12 * (year + 1), false) - 1);
      return extra(begin, to, risen(50_00, rises, year, 'away-from-zero'));
    });
    const [made, stated] = [[extra(from, last, 50_00, rises)], yearly].map((events) =>
      buildLoanSchedule(plainLoan([level(120)], { ...rule, events })),
    );
    expect([...(made?.extra ?? [])]).toEqual([...(stated?.extra ?? [])]);
    expect(made?.extra[made.length - 1]).toBeDefined();
  });

  it('rises no more once another payment is agreed', () => {
    const changed: LoanEvent = { type: 'payment-change', on: day('2028-02-15'), payment: 2000_00 };
    const schedule = buildLoanSchedule(
      plainLoan([rising(1000_00, byShare(1000), 60)], {
        start: day('2026-01-15'),
        first: day('2026-02-15'),
        amount: 200_000_00,
        atEnd: 'leave',
        events: [changed],
      }),
    );
    expect([0, 12, 24, 36, 48].map((at) => payments(schedule)[at])).toEqual([
      1000_00, 1100_00, 2000_00, 2000_00, 2000_00,
    ]);
    const again = buildLoanSchedule(
      plainLoan([rising(1000_00, byShare(1000), 60)], {
        start: day('2026-01-15'),
        first: day('2026-02-15'),
        amount: 200_000_00,
        atEnd: 'leave',
        events: [{ ...changed, rises: { by: 'amount', amount: 10_00 } }],
      }),
    );
    expect([24, 35, 36, 48].map((at) => payments(again)[at])).toEqual([2000_00, 2000_00, 2010_00, 2020_00]);
  });

  describe('and is agreed anew', () => {
    const yearly = { start: day('2025-01-01'), first: day('2026-01-01'), every: 'year' } as const;
    const amount = (by: number): Rise => ({ by: 'amount', amount: by });
    const change = (on: string, payment: number, rises?: Rise): LoanEvent => ({
      type: 'payment-change',
      on: day(on),
      payment,
      ...(rises && { rises }),
    });
    /** Five payments of 50.00, rising by 5.00, after one of interest alone. */
    const made = (...events: LoanEvent[]): number[] =>
      payments(
        buildLoanSchedule(
          plainLoan([{ type: 'interest-only', count: 1 }, rising(50_00, amount(5_00), 5)], {
            ...yearly,
            amount: 2000_00,
            annualRate: percent('1'),
            atEnd: 'leave',
            events,
          }),
        ),
      ).slice(1);

    // The first payment is due on 1 January 2027; a change counts from the first due date on or after its day.
    it('follows the later agreement from its day on, the first payment included', () => {
      expect(made()).toEqual([50_00, 55_00, 60_00, 65_00, 70_00]);
      // Of the payment before: the amount of the stretch is agreed later.
      expect(made(change('2026-01-01', 30_00))).toEqual([50_00, 55_00, 60_00, 65_00, 70_00]);
      for (const on of ['2026-01-02', '2026-06-15', '2027-01-01'])
        expect(made(change(on, 30_00)), on).toEqual([30_00, 30_00, 30_00, 30_00, 30_00]);
      expect(made(change('2027-01-02', 30_00))).toEqual([50_00, 30_00, 30_00, 30_00, 30_00]);
      expect(made(change('2031-01-01', 30_00))).toEqual([50_00, 55_00, 60_00, 65_00, 30_00]);
    });

    it('rises from each agreement to the next, in whatever order they are told', () => {
      const [first, second] = [
        change('2027-06-01', 30_00, amount(1_00)),
        change('2029-06-01', 40_00, amount(2_00)),
      ];
      for (const events of [
        [first, second],
        [second, first],
      ])
        expect(made(...events)).toEqual([50_00, 30_00, 31_00, 40_00, 42_00]);
      // Of the last year and after it: it rises no more than there are payments.
      expect(made(change('2031-01-01', 40_00, amount(2_00)))).toEqual([50_00, 55_00, 60_00, 65_00, 40_00]);
      expect(made(change('2031-01-02', 40_00, amount(2_00)))).toEqual([50_00, 55_00, 60_00, 65_00, 70_00]);
    });

    it('is set once for each year, however often it is paid', () => {
      const monthly = buildLoanSchedule(
        plainLoan([rising(1000_00, byShare(300), 30)], {
          start: day('2026-01-15'),
          first: day('2026-02-15'),
        }),
      );
      expect(monthly.settings.map(({ at, amount: of }) => [at, of])).toEqual([
        [0, 1000_00n],
        [12, 1030_00n],
        [24, 1060_90n],
      ]);
    });

    it('ends with the stretch that it was agreed in', () => {
      const stretches = [
        { type: 'fixed', payment: 40_00, count: 2 } as const,
        rising(50_00, amount(5_00), 2),
      ];
      const rule = { ...yearly, amount: 2000_00, annualRate: percent('1'), atEnd: 'leave' } as const;
      const events = [change('2026-01-01', 30_00, amount(1_00))];
      expect(payments(buildLoanSchedule(plainLoan(stretches, { ...rule, events })))).toEqual([
        30_00, 31_00, 50_00, 55_00,
      ]);
    });
  });

  // Payments that begin below the interest and rise above it: the balance grows before it falls.
  it('may begin below the interest and clear the loan all the same, or is refused where it never does', () => {
    const rule = { start: day('2026-01-15'), first: day('2026-02-15'), annualRate: percent('12') };
    const schedule = buildLoanSchedule(
      plainLoan([rising(900_00, byShare(1000))], { ...rule, amount: 100_000_00 }),
    );
    expect(schedule.closing[11]).toBeGreaterThan(100_000_00);
    expect(schedule.closing[schedule.length - 1]).toBe(0);
    expect(() =>
      buildLoanSchedule(plainLoan([rising(100_00, byShare(1))], { ...rule, amount: 100_000_00 })),
    ).toThrow(/not cleared within 1200 payments/);
  });
});
