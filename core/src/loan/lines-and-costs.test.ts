import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isBusinessDay, type BusinessDayRule } from '../calendar/business-days/business-days.ts';
import { addMonths, formatDay } from '../calendar/calendar-day.ts';
import { accruedFee } from './position/loan-position.ts';
import { arbitraryLoan } from '../testing/arbitrary-loan.ts';
import { buildLoanSchedule } from './schedule/build-loan-schedule.ts';
import { costAmortization } from './costs/issue-costs.ts';
import type { LoanEvent } from './terms/loan-events.ts';
import { totalOf } from './schedule/totals.ts';
import { day, failing, level, percent, plainLoan, rowsOf } from '../testing/plain-loan.ts';

describe('a credit line', () => {
  const line = plainLoan([{ type: 'interest-only', count: 3 }], {
    amount: 0,
    start: day('2024-01-10'),
    first: day('2024-01-31'),
    keepMonthEnd: true,
    dayCount: 'ACT/360',
    creditLine: { limit: 50_000_000, unusedFee: percent('0.5') },
    events: [
      { type: 'draw', on: day('2024-01-15'), amount: 10_000_000, then: 'keep' },
      { type: 'extra-principal', on: day('2024-02-10'), amount: 3_000_000, then: 'shorten' },
    ],
  });

  // Common practice: interest on each day's balance, the day of a draw counted and that of a repayment not.
  it('bills interest on each day’s balance, and a fee on what is not drawn', () => {
    const bills = rowsOf(line).filter(({ n }) => n !== null);
    expect(bills.map(({ interest }) => interest)).toEqual([
      Math.round((10_000_000 * 0.06 * 16) / 360),
      Math.round((0.06 * (10_000_000 * 10 + 7_000_000 * 19)) / 360),
      Math.round((7_000_000 * 0.06 * 31) / 360),
    ]);
    expect(bills[0]?.fee).toBe(Math.round((0.005 * (50_000_000 * 5 + 40_000_000 * 16)) / 360));
    expect(bills[2]).toMatchObject({ closing: 0, principal: 7_000_000 });
    expect(accruedFee(buildLoanSchedule(line), day('2024-02-10'))).toBe(
      Math.round((0.005 * 40_000_000 * 10) / 360),
    );
    expect(failing(line)).toEqual([]);
  });

  it('refuses a draw above its limit, saying what can be drawn', () => {
    const over: LoanEvent = { type: 'draw', on: day('2024-02-15'), amount: 45_000_000, then: 'keep' };
    expect(() => buildLoanSchedule({ ...line, events: [...line.events, over] })).toThrow(
      'at most 430000.00 can be drawn',
    );
  });
});

describe('business days', () => {
  it('move payments, and interest with them or not', () => {
    const moving = { rule: 'following', calendar: 'TARGET' } as const;
    fc.assert(
      fc.property(arbitraryLoan, fc.array(fc.nat(100), { maxLength: 5 }), (any, after) => {
        // Days of one place besides, far enough apart that each payment keeps a day of its own.
        const closed = new Set(after.map((at) => any.first + 29 * at));
        fc.pre(any.every !== 'week' && any.every !== 'two-weeks' && any.first > any.start + 20);
        const plain = { ...any };
        delete (plain as { businessDays?: unknown }).businessDays;
        const unmoved = rowsOf({ ...plain, businessDays: { ...moving, closed, accrual: 'unmoved' } });
        const still = rowsOf(plain);
        expect(unmoved.every(({ due }) => isBusinessDay(due, 'TARGET', closed))).toBe(true);
        expect(unmoved.map(({ interest, closing }) => [interest, closing])).toEqual(
          still.map(({ interest, closing }) => [interest, closing]),
        );
      }),
      { numRuns: 60 },
    );
  });

  // A payment is told by the day that it falls due (common practice in statements): two cannot share one.
  it('leave each payment a day of its own, whatever is closed besides', () => {
    const through = (from: number, days: number): ReadonlySet<number> =>
      new Set(Array.from({ length: days }, (_, at) => from + at));
    const closing = (from: string, days: number, rule: BusinessDayRule) => (): unknown =>
      buildLoanSchedule(
        plainLoan([level(12)], {
          businessDays: { rule, calendar: 'weekends', accrual: 'moved', closed: through(day(from), days) },
        }),
      );
    const { start, first } = plainLoan([level(12)]);
    for (const rule of ['following', 'preceding'] as const) {
      expect(closing(formatDay(first + 40), 90, rule)).toThrow('would fall on');
      expect(closing(formatDay(first + 10), 7, rule)).not.toThrow();
    }
    expect(closing(formatDay(start), first - start + 1, 'preceding')).toThrow('has not begun');
  });

  // 15 June 2024 is a Saturday: paid on Monday 17, two days later.
  it('count the days to the moved payment where interest moves', () => {
    const loan = plainLoan([{ type: 'interest-only', count: 6 }], {
      dayCount: 'ACT/360',
      businessDays: { rule: 'modified-following', calendar: 'TARGET', accrual: 'moved' },
    });
    const june = rowsOf(loan)[4];
    expect(formatDay(june?.due ?? 0)).toBe('2024-06-17');
    expect(june?.interest).toBe(Math.round((10_000_000 * 0.06 * 33) / 360));
  });
});

describe('costs of a loan', () => {
  // FASB Statement 91, Appendix B, example 1 (ASC 310-20-55): 100,000 over ten years at 10 %, payment 16,275, net fee
  // 2,000: effective rate 10.4736 %, interest of the first year 10,264, fee amortized 264; from memory, reproduced.
  const fas91 = plainLoan([level(10, 10, 1_627_500)], {
    annualRate: percent('10'),
    every: 'year',
    first: day('2025-01-15'),
    issueCosts: { amount: 200_000, method: 'effective' },
  });

  it('are amortized at the effective rate of the standard’s example', () => {
    const { effectiveRates, amortized } = costAmortization(buildLoanSchedule(fas91));
    // The last payment here is what is then owed, a few units less than the standard's tenth of 16,275.
    expect(Number(effectiveRates[0]?.rate)).toBeCloseTo(0.10473, 4);
    expect(Math.round((amortized[0] ?? 0) / 100)).toBe(264);
    expect(amortized.reduce((sum, each) => sum + each, 0)).toBe(200_000);
  });

  // IFRS 9 B5.4.5: with rates that move, interest follows them and the costs are spread by a rate on top.
  it('are spread on top of a rate that is known to change, in every period; a step to the same rate changes nothing', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 100, max: 1200 }),
        fc.integer({ min: 100, max: 1200 }),
        fc.integer({ min: 2, max: 58 }),
        (rate, after, month) => {
          const amortized = (to: number, payment: 'keep' | 're-level'): number[] => {
            const loan = plainLoan([level(60)], {
              annualRate: percent(String(rate / 100)),
              rateSteps: [
                {
                  from: addMonths(plainLoan([level(60)]).first, month, false),
                  annualRate: percent(String(to / 100)),
                  payment,
                },
              ],
              issueCosts: { amount: 150_000, method: 'effective' },
            });
            return [...costAmortization(buildLoanSchedule(loan)).amortized.subarray(0, 60)];
          };
          const stepped = amortized(after, 're-level');
          expect(stepped.reduce((sum, each) => sum + each, 0)).toBe(150_000);
          expect(stepped.every((each) => each > 0)).toBe(true);
          const constant = plainLoan([level(60)], {
            annualRate: percent(String(rate / 100)),
            issueCosts: { amount: 150_000, method: 'effective' },
          });
          const plain = costAmortization(buildLoanSchedule(constant)).amortized.subarray(0, 60);
          expect(amortized(rate, 'keep')).toEqual([...plain]);
        },
      ),
      { numRuns: 25 },
    );
  });

  it('or in equal parts, the last taking the rounding', () => {
    const equal = { ...fas91, issueCosts: { amount: 100_001, method: 'straight-line' } as const };
    const { amortized } = costAmortization(buildLoanSchedule(equal));
    expect([...amortized.subarray(0, 10)]).toEqual([...Array.from({ length: 9 }, () => 10_000), 10_001]);
  });
});

describe('full precision', () => {
  it('ends on the closed form, and rounds only for showing', () => {
    const exact = plainLoan([level(360)], {
      rounding: { interest: 'none', payment: 'none', ties: 'away-from-zero' },
    });
    const schedule = buildLoanSchedule(exact);
    // B·i/(1 − v^360)·360 − B with 50 digits: 115,838.19.
    expect(totalOf(schedule, 'interest')).toBe(11_583_819);
    expect(schedule.payment[359]).toBe(59_955);
    expect(failing(exact)).toEqual([]);
  });

  it('settles a loan for less than is owed, and the difference is told', () => {
    const settled = plainLoan([level(36)], {
      events: [{ type: 'settled', on: day('2024-09-01'), amount: 7_000_000 }],
    });
    const { settlement, closing, length } = buildLoanSchedule(settled);
    expect(closing[length - 1]).toBe(0);
    expect(settlement?.paid).toBe(7_000_000);
    expect((settlement?.owed ?? 0) > 7_000_000).toBe(true);
  });
});
