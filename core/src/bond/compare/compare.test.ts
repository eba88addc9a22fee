import { describe, expect, it } from 'vitest';
import { formatDay } from '../../calendar/calendar-day.ts';
import { day, percent, plainBond, priced } from '../../testing/plain-bond.ts';
import { buildBondSchedule } from '../schedule/bond-walk.ts';
import type { BondTerms, EarlyRedemption, Instalment } from '../terms/bond-terms.ts';
import { compareMethods } from './bond-methods.ts';
import { callOn, redemptionOutcome } from './redemption-outcome.ts';

const built = (more: Partial<BondTerms> = {}) =>
  buildBondSchedule(plainBond('8', { marketYield: percent('10'), ...more }));

describe('a bond by both methods', () => {
  // Kieso, Intermediate Accounting, chapter 14: 100,000 at 8 %, sold to yield 10 % at 92,278; 772 of discount each half
  // year in a straight line, 614 in the first and 952 in the last by effective interest.
  it('sets the expense of each beside the other, as the textbook has them', () => {
    for (const method of ['effective', 'straight-line'] as const) {
      const { rows, farthest, farthestCarrying } = compareMethods(built({ method }));
      expect(rows).toHaveLength(10);
      expect(rows[0]).toEqual({
        ...{ index: 1, n: 1, due: day('2024-07-01'), effective: 461_400, straightLine: 477_200 },
        ...{ difference: 15_800, carryingDifference: 15_800 },
      });
      expect(farthest?.n).toBe(10);
      expect(farthestCarrying).toBe(Math.max(...rows.map((row) => row.carryingDifference)));
      expect(rows.reduce((sum, { difference }) => sum + difference, 0)).toBe(0);
    }
  });

  it('takes the costs along: by effective interest where the terms are by it, evenly where they say so', () => {
    const costs = (method: 'effective' | 'straight-line', of: 'effective' | 'straight-line') =>
      compareMethods(built({ method, issueCosts: { amount: 300_000, method: of } })).rows.map(
        ({ effective, straightLine }) => [effective, straightLine],
      );
    const both = costs('effective', 'effective');
    // 300.00 a period in a straight line; fewer at first by effective interest.
    expect(both[0]?.[1]).toBe(477_200 + 30_000);
    expect((both[0]?.[0] ?? 0) - 461_400).toBeLessThan(30_000);
    // Where the bond is by straight-line its costs go by each method as the bond does.
    expect(costs('straight-line', 'straight-line')).toEqual(both);
    // Where terms by effective interest spread their costs evenly, they stay so.
    const even = costs('effective', 'straight-line');
    expect(even[0]).toEqual([461_400 + 30_000, 477_200 + 30_000]);
  });

  it('names the first of several rows that lie as far apart, and none where nothing lies apart', () => {
    const { farthest, farthestCarrying, rows } = compareMethods(
      buildBondSchedule(plainBond('8', { price: priced('100') })),
    );
    expect([farthest, farthestCarrying]).toEqual([rows[0], 0]);
    const premium = compareMethods(built({ marketYield: percent('6') }));
    expect(premium.farthestCarrying).toBeGreaterThan(0);
    expect(premium.rows[0]?.carryingDifference).toBeLessThan(0);
  });
});

describe('a redemption that is tried', () => {
  const redemption = { on: day('2026-01-01'), face: 4_000_000, price: percent('101') };
  const instalments: readonly Instalment[] = [{ on: day('2028-01-01'), face: 1_000_000, at: 0 }];
  const another: EarlyRedemption = { on: day('2027-01-01'), face: 1_000_000, price: percent('100'), at: 1 };

  it('costs its price, and spares what would have been paid and charged after it', () => {
    const before = built();
    const { row, cash, couponsSpared, expenseSpared, schedule } = redemptionOutcome(before, redemption);
    expect([formatDay(row.due), row.paid, cash]).toEqual(['2026-01-01', 4_040_000, 4_040_000]);
    // Six coupons of 1,600.00; the expense is these with 40 % of the discount left then.
    expect(couponsSpared).toBe(6 * 160_000);
    const left = before.rows[4]?.unamortized ?? 0;
    expect(expenseSpared).toBe(couponsSpared + left * 0.4);
    expect(schedule.terms.redemptions).toHaveLength(1);
  });

  it('is set in its place among others, later and earlier ones, and found again', () => {
    const before = built({ instalments, redemptions: [another] });
    for (const on of ['2026-01-01', '2028-01-01']) {
      const { row, schedule } = redemptionOutcome(before, { ...redemption, on: day(on) });
      expect([formatDay(row.due), row.paid, row.redemption]).toEqual([on, 4_040_000, 2]);
      expect(schedule.terms.redemptions.map((each) => formatDay(each.on))).toEqual(['2027-01-01', on].sort());
    }
    // Between coupons the coupon to the day is paid with it: three months of 1,600.00.
    expect(redemptionOutcome(before, { ...redemption, on: day('2026-04-01') }).cash).toBe(4_040_000 + 80_000);
    expect(() => redemptionOutcome(before, { ...redemption, face: 10_000_001 })).toThrow();
  });

  it('is at the call that has begun by its day', () => {
    const calls = ['103', '102', '101'].map((price, at) => ({
      from: day(`${2026 + at}-07-01`),
      price: percent(price),
    }));
    const days = ['2026-06-30', '2026-07-01', '2027-06-30', '2027-07-01', '2030-01-01'];
    expect(days.map((on) => callOn(calls, day(on)))).toEqual([
      undefined,
      calls[0],
      calls[0],
      calls[1],
      calls[2],
    ]);
    expect(callOn([], day('2026-07-01'))).toBeUndefined();
  });
});
