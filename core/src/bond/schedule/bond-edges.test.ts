import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addMonths } from '../../calendar/calendar-day.ts';
import { exactMinor, interestStep, minorOf } from '../../money/rounding.ts';
import { ratioToNumber } from '../../money/ratio.ts';
import { arbitraryBondWithEvents } from '../../testing/arbitrary-bond.ts';
import { day, percent, plainBond, priced } from '../../testing/plain-bond.ts';
import type { BondTerms, EarlyRedemption } from '../terms/bond-terms.ts';
import { bondProofs } from './bond-proofs.ts';
import {
  amortizedShare,
  discountShare,
  lastCouponRow,
  type BondRow,
  type BondSchedule,
} from './bond-schedule.ts';
import { buildBondSchedule } from './bond-walk.ts';

const cent = { interest: 'cent', ties: 'away-from-zero' } as const;
const rowsOf = (coupon: string, more: Partial<BondTerms>): readonly BondRow[] =>
  buildBondSchedule(plainBond(coupon, more)).rows;
const redeemed = (on: string, face: number, price = '100'): EarlyRedemption => ({
  on: day(on),
  face,
  price: percent(price),
  at: 0,
});

describe('rows of a bond', () => {
  it('are what they come to unrounded, rounded: expense but for the last, coupons in all', () => {
    fc.assert(
      fc.property(arbitraryBondWithEvents, fc.constantFrom('cent', 'none'), (any, interest) => {
        const terms = { ...any, rounding: { ...any.rounding, interest } };
        const { rows } = buildBondSchedule(terms);
        const last = rows.at(-1) as BondRow;
        for (const row of rows) {
          // Costs whose cents have run out before the last row amortize no more, whatever their rate makes.
          const runOut = terms.issueCosts !== undefined && row.unamortizedCosts === 0;
          // The discount and the costs are rounded apart.
          if ((row !== last && !runOut) || row.kind === 'redemption')
            expect(Math.abs(row.expense - ratioToNumber(row.exactExpense))).toBeLessThanOrEqual(
              1.5 * interestStep(terms),
            );
          if (row.kind === 'redemption') {
            const exact =
              ratioToNumber(row.exactExpense) - ratioToNumber(exactMinor(terms, row.exact.expense));
            expect(Math.abs(exact)).toBeLessThan(1e-6);
          }
          expect(Math.abs(row.booked.coupon - row.coupon)).toBeLessThanOrEqual(1);
        }
        const coupons = rows.reduce((sum, row) => sum + row.exact.coupon, 0n);
        expect(rows.reduce((sum, row) => sum + row.booked.coupon, 0)).toBe(minorOf(terms, coupons));
      }),
      { numRuns: 150 },
    );
  });

  // ASC 835-30 and IFRS 9 B5.4.1: without discount or costs the rate is the coupon's, whatever the days of a period.
  it('amortize nothing where a bond is sold at face', () => {
    for (const more of [{}, { marketYield: percent('8') }] as const) {
      const rows = rowsOf('8', { dayCount: 'ACT/365F', price: priced('100'), rounding: cent, ...more });
      expect(rows.some(({ amortization }) => amortization !== 0)).toBe(false);
      expect(new Set(rows.map(({ coupon }) => coupon)).size).toBeGreaterThan(2);
    }
  });

  // Straight-line: an equal part a period, of a broken one what is left of it. Four of six months, and nine periods.
  it('amortize in a broken first period as much as is left of it', () => {
    const rows = rowsOf('8', {
      dated: day('2024-01-01'),
      issued: day('2024-03-01'),
      price: priced('97.1'),
      method: 'straight-line',
      rounding: cent,
    });
    // 2.9 % of 100,000.00 over 9⅔ periods: 300.00 each.
    expect(rows.slice(1).map(({ amortization }) => amortization)).toEqual([
      20_000,
      ...Array.from({ length: 9 }, () => 30_000),
    ]);
  });

  // What falls due later is lessened in its share, and the last takes the rest: 40 of each 100.
  it('pay instalments that were lessened by what was redeemed before', () => {
    const instalments = [2025, 2026, 2027].map((year, at) => ({
      on: day(`${year}-01-01`),
      face: 2_500_000,
      at,
    }));
    const paid = (...redemptions: EarlyRedemption[]): number[] =>
      rowsOf('8', { instalments, matures: day('2028-01-01'), price: priced('100'), redemptions })
        .filter(({ paid: of, kind }) => kind === 'coupon' && of > 0)
        .map((row) => row.paid);
    expect(paid()).toEqual([2_500_000, 2_500_000, 2_500_000]);
    expect(paid(redeemed('2024-09-01', 4_000_000))).toEqual([1_500_000, 1_500_000, 1_500_000]);
    expect(paid(redeemed('2025-03-01', 3_000_000))).toEqual([2_500_000, 1_500_000, 1_500_000]);
    const schedule = buildBondSchedule(
      plainBond('8', {
        instalments,
        matures: day('2028-01-01'),
        price: priced('100'),
        redemptions: [redeemed('2025-03-01', 1_000_000)],
      }),
    );
    // 750 less 100 in three: 216.66, 216.66, and 216.68 at maturity.
    expect(schedule.bases.at(-1)?.dues).toEqual([{ on: day('2028-01-01'), face: 2_166_668 }]);
    expect(lastCouponRow(schedule)?.faceAfter).toBe(2_166_668);
  });

  // Four months after issue 1,333.33 of coupon came in besides, and is owed with what is carried until the first coupon.
  it('bear interest on the coupon that was sold with the bond, its costs in the rate or apart', () => {
    const between = {
      dated: day('2024-01-01'),
      issued: day('2024-05-01'),
      price: priced('97'),
      rounding: cent,
    } as const;
    for (const method of ['effective', 'straight-line'] as const) {
      for (const of of ['effective', 'straight-line'] as const) {
        if (method === 'straight-line' && of === 'effective') continue;
        const rows = rowsOf('8', { ...between, method, issueCosts: { amount: 50_000, method: of } });
        const first = rows[1] as BondRow;
        expect(first.received).toBe(266_667);
        expect(Math.abs(first.expense - ratioToNumber(first.exactExpense))).toBeLessThanOrEqual(1.5);
        // Two months of a debt of some 97,000.00 at some 9 % are some 1,450.00.
        expect(first.expense).toBeGreaterThan(130_000);
        expect(first.expense).toBeLessThan(160_000);
      }
    }
  });

  // What is amortized by the day is shared by face: two of six months, four tenths of the face.
  it('amortize to the day of a redemption on the face that is redeemed alone', () => {
    const terms = { price: priced('95'), method: 'straight-line', rounding: cent } as const;
    const rows = rowsOf('8', { ...terms, redemptions: [redeemed('2026-03-01', 4_000_000)] });
    const at = rows.findIndex(({ kind }) => kind === 'redemption');
    // 5,000.00 in ten periods are 500.00 each.
    expect([rows[at - 1]?.amortization, rows[at]?.amortization, rows[at + 1]?.amortization]).toEqual([
      50_000,
      Math.round((50_000 * 0.4) / 3),
      30_000,
    ]);
    const unrounded = { ...terms, rounding: { ...cent, interest: 'none' } } as const;
    expect(() => rowsOf('8', { ...unrounded, redemptions: [redeemed('2026-03-01', 10_000_001)] })).toThrow(
      'On 2026-03-01 100000.00 of face is outstanding, so 100000.01 cannot be redeemed.',
    );
  });

  it('have a last coupon but where all was redeemed before', () => {
    const end = (redemptions: EarlyRedemption[]): BondRow | undefined =>
      lastCouponRow(buildBondSchedule(plainBond('8', { price: priced('100'), redemptions })));
    expect(end([])?.due).toBe(day('2029-01-01'));
    expect(end([redeemed('2026-03-01', 4_000_000)])?.due).toBe(day('2029-01-01'));
    expect(end([redeemed('2026-03-01', 10_000_000)])).toBeUndefined();
  });

  it('say a discount or premium as a share of the face', () => {
    const share = (price: string): string =>
      discountShare(buildBondSchedule(plainBond('8', { price: priced(price) })));
    expect([share('92.28'), share('103.256'), share('100')]).toEqual(['7.72%', '3.26%', '0.00%']);
  });

  // Thirty days a month: from the 30th to the 31st are none, and what is amortized over them is, all the same.
  it('amortize by days where a day count has none for a stretch', () => {
    const terms = plainBond('8', {
      dated: day('2023-07-31'),
      issued: day('2024-01-30'),
      matures: day('2029-01-31'),
      keepMonthEnd: true,
    });
    const [period] = buildBondSchedule({ ...terms, price: priced('99') }).periods;
    if (!period) throw new Error('A bond has a period.');
    expect(amortizedShare(terms, period, day('2024-01-30'))).toMatchObject({ num: 0n });
    const whole = amortizedShare(terms, period, day('2024-01-31'));
    expect(whole.num).toBe(whole.den);
    const next = addMonths(period.to, 6, true);
    const plain = { ...period, from: period.to, to: next };
    expect(ratioToNumber(amortizedShare(terms, plain, period.to + 91))).toBeCloseTo(0.5, 1);
  });
});

describe('proofs of a bond', () => {
  const failing = (schedule: BondSchedule): string[] =>
    bondProofs(schedule).flatMap(({ name, holds }) => (holds ? [] : [name]));
  const changed = (schedule: BondSchedule, at: number, more: Partial<BondRow>): BondSchedule => ({
    ...schedule,
    rows: schedule.rows.map((row, index) =>
      index === (at + schedule.rows.length) % schedule.rows.length ? { ...row, ...more } : row,
    ),
  });

  it('hold each redemption to its price and gain or loss, and have nothing to hold where there is none', () => {
    const name = 'In each redemption the carrying amount retired is the price paid and the gain or loss';
    const plain = buildBondSchedule(plainBond('8', { price: priced('95') }));
    expect(bondProofs(plain).some((proof) => proof.name === name)).toBe(false);
    const schedule = buildBondSchedule(
      plainBond('8', { price: priced('95'), redemptions: [redeemed('2026-03-01', 4_000_000, '101')] }),
    );
    expect(bondProofs(schedule).some((proof) => proof.name === name)).toBe(true);
    expect(failing(schedule)).toEqual([]);
    const at = schedule.rows.findIndex(({ kind }) => kind === 'redemption');
    for (const by of [1, -1])
      expect(failing(changed(schedule, at, { gain: (schedule.rows[at]?.gain ?? 0) + by }))).toEqual([name]);
  });

  it('name how it ends', () => {
    const first = (redemptions: EarlyRedemption[]): string | undefined =>
      bondProofs(buildBondSchedule(plainBond('8', { price: priced('95'), redemptions })))[0]?.name;
    expect(first([])).toBe('The last row lands on the face due at maturity');
    expect(first([redeemed('2026-03-01', 10_000_000)])).toBe(
      'All is redeemed by 2026-03-01 and nothing is left',
    );
  });

  // Ten rows of half a unit, grown, and half the last decimal of price and yield: far below 500.00.
  it('let rounding explain what is left to the last row, and no more', () => {
    const name = 'Rounding explains the difference left to the last row';
    const stated = {
      price: priced('92.2783'),
      marketYield: percent('10'),
      effectiveRate: 'yield',
      yieldDecimals: 2,
    } as const;
    for (const more of [{ price: priced('92.2783') }, stated]) {
      const schedule = buildBondSchedule(plainBond('8', more));
      expect(failing(schedule)).toEqual([]);
      const last = schedule.rows.at(-1) as BondRow;
      for (const by of [50_000, -50_000])
        expect(failing(changed(schedule, -1, { expense: last.expense + by }))).toContain(name);
    }
    // What is not rounded leaves the last row nothing that could be seen.
    const exact = buildBondSchedule(
      plainBond('8', { price: priced('92.2783'), rounding: { ...cent, interest: 'none' } }),
    );
    expect(bondProofs(exact).at(-1)).toMatchObject({ holds: true, difference: 0 });
  });
});
