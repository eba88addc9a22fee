import { describe, expect, it } from 'vitest';
import { ratio } from '../../money/ratio.ts';
import { position } from '../../position/position.ts';
import { extra, paid } from '../../testing/loan-events.ts';
import { day, failing, level, rowsOf, thousand } from '../../testing/plain-loan.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import type { LoanTerms } from '../terms/loan-terms.ts';
import { buildLoanSchedule } from './build-loan-schedule.ts';

describe('between the agreed day and the one a payment moved to', () => {
  // 31 May 2025 is a Saturday; what happens on Sunday counts from Sunday.
  const moved = {
    start: day('2025-04-30'),
    first: day('2025-05-31'),
    dayCount: 'ACT/360',
    keepMonthEnd: true,
    businessDays: { rule: 'following', calendar: 'TARGET', accrual: 'unmoved' },
  } as const;

  it('principal repaid and drawn counts from its own day', () => {
    const repaid = thousand([{ type: 'interest-only', count: 3 }], {
      ...moved,
      events: [extra('2025-06-01', 50_000)],
    });
    expect(rowsOf(repaid).find(({ n }) => n === 2)?.interest).toBe(517);
    const line = thousand([{ type: 'interest-only', count: 3 }], {
      ...moved,
      amount: 0,
      creditLine: { limit: 1_000_000, unusedFee: ratio(0n) },
      events: [{ type: 'draw', on: day('2025-06-01'), amount: 600_000, then: 'keep' }],
    });
    expect(rowsOf(line).find(({ n }) => n === 2)?.interest).toBe(5_800);
    expect(failing(line)).toEqual([]);
  });

  const accrued = (terms: LoanTerms, on: string): number =>
    position(buildLoanSchedule(terms), day(on)).accruedInterest;

  // Unmoved: the period ends on the agreed day, whenever it is paid (ISDA 2006 section 4.9, no adjustment; from memory).
  it('interest of the period is fixed, and that of the next has begun', () => {
    const plain = thousand([level(3)], moved);
    const [first] = rowsOf(plain);
    // 1,000 · 12 % · 31 ÷ 360 = 10.33, and a day on what the payment of 31 May leaves.
    const left = 1_000_00 - (first?.principal ?? 0);
    const sunday = Math.round((1_000_00 * 0.12 * 31 + left * 0.12) / 360);
    expect([first?.interest, sunday]).toEqual([1_033, 1_056]);
    for (const events of [
      [],
      [extra('2025-06-01', 50_000)],
      [{ type: 'draw', on: day('2025-06-01'), amount: 50_000, then: 'keep' } as const],
    ]) {
      expect(accrued({ ...plain, events }, '2025-06-01')).toBe(sunday);
      expect(accrued({ ...plain, events }, '2025-05-31')).toBe(1_033);
      // That it is not paid on Monday nobody knows on Sunday.
      const missed = { ...plain, events: [...events, paid('2025-05-31', '2025-06-02', 0)] };
      expect(accrued(missed, '2025-06-01')).toBe(sunday);
    }
    // Compounded daily: 30 days of 30/360 from 30 April, which earn nothing on the Sunday, and a day anew.
    const daily = thousand([{ type: 'interest-only', count: 3 }], {
      ...moved,
      amount: 100_000_000,
      dayCount: '30/360',
      compounding: 'daily',
    });
    const over = (days: number): number => 1_000_000 * ((1 + 0.12 / 365) ** ((365 * days) / 360) - 1);
    expect(accrued(daily, '2025-06-01')).toBe(Math.round((over(30) + over(1)) * 100));
    expect(accrued(daily, '2025-06-01')).toBe(1_038_184);
  });

  it('a payment made is charged what one on the day that it moved to is, in one piece or in parts', () => {
    const interest = (...events: LoanEvent[]): number[] => {
      const terms = thousand([level(3)], { ...moved, events });
      expect(failing(terms)).toEqual([]);
      return rowsOf(terms)
        .filter(({ interest: of }) => of > 0)
        .slice(0, 2)
        .map(({ interest: of }) => of);
    };
    const monday = interest(paid('2025-05-31', '2025-06-02', 34_000));
    expect(monday[0]).toBe(1_033);
    expect(interest(paid('2025-05-31', '2025-06-01', 34_000))).toEqual(monday);
    expect(
      interest(paid('2025-05-31', '2025-06-01', 20_000), paid('2025-05-31', '2025-06-02', 14_000)),
    ).toEqual(monday);
  });
});
