import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Explanation } from '../../explain/explanation.ts';
import { arbitraryBondWithEvents } from '../../testing/arbitrary-bond.ts';
import { day, percent, plainBond, priced } from '../../testing/plain-bond.ts';
import type { BondSchedule } from '../schedule/bond-schedule.ts';
import { buildBondSchedule } from '../schedule/bond-walk.ts';
import type { BondTerms, EarlyRedemption } from '../terms/bond-terms.ts';
import { explainBondFigure, explainDiscountAtIssue } from './explain-bond.ts';
import type { BondFigure } from './bond-figure.ts';

/** The first amount, and those that are added to it or taken away; what only tells more has neither sign. */
const sumOf = ({ steps }: Explanation): number =>
  steps.reduce((sum, { label, amount = 0 }, at) => {
    if (label.startsWith('−')) return sum - amount;
    return at === 0 || label.startsWith('+') ? sum + amount : sum;
  }, 0);
const made = (more: Partial<BondTerms> = {}): BondSchedule =>
  buildBondSchedule(plainBond('8', { price: priced('95'), ...more }));
const told = (schedule: BondSchedule, row: number, figure: BondFigure): unknown[] =>
  explainBondFigure(schedule, row, figure).steps.map(({ label, amount, text, link }) => [
    label.replace(/ \(.*/, ''),
    amount ?? text,
    link && 'key' in link ? link.key : link && 'column' in link ? `${link.row} ${link.column}` : undefined,
  ]);
const redeemed = (face: number, price = '101'): EarlyRedemption => ({
  on: day('2026-03-01'),
  face,
  price: percent(price),
  at: 0,
});
const cents = { interest: 'cent', ties: 'away-from-zero' } as const;

describe('a figure of a bond', () => {
  it('is the sum of what it names, wherever it names no unrounded one', () => {
    const figures: BondFigure[] = [
      ...([
        'opening',
        'received',
        'expense',
        'amortization',
        'costsAmortized',
        'retired',
        'paid',
        'gain',
        'unamortized',
      ] as const),
      'closing',
    ];
    fc.assert(
      fc.property(arbitraryBondWithEvents, (terms) => {
        // Where nothing is rounded, rounded figures need not add up.
        if (terms.rounding.interest === 'none') return;
        const schedule = buildBondSchedule(terms);
        schedule.rows.forEach((row, at) => {
          for (const figure of figures) {
            const explained = explainBondFigure(schedule, at, figure);
            expect(explained.amount).toBe(row[figure]);
            const nothing = explained.steps.every(({ amount }) => amount === undefined);
            if (explained.unrounded === undefined)
              expect(sumOf(explained), `${figure} of row ${at} (${row.kind})`).toBe(
                nothing ? 0 : row[figure],
              );
          }
        });
      }),
      { numRuns: 80 },
    );
    expect(() => explainBondFigure(made(), 99, 'opening')).toThrow(RangeError);
  });

  it('on issue is price and costs, and nothing that was paid or charged', () => {
    const issued = made({ issueCosts: { amount: 20_000, method: 'effective' } });
    expect(told(issued, 0, 'closing')).toEqual([
      ['Face', 10_000_000, 'face'],
      ['× price, percent of face', '95', 'price'],
      ['− issue costs', 20_000, 'issueCosts'],
    ]);
    expect(told(issued, 0, 'unamortized')).toEqual([
      ['Face', 10_000_000, 'face'],
      ['− price received for it', 9_500_000, undefined],
      ['+ issue costs', 20_000, undefined],
    ]);
    expect(told(made(), 0, 'unamortized')).toHaveLength(2);
    expect(told(made(), 0, 'closing')).toHaveLength(2);
    expect(told(made(), 0, 'coupon')).toEqual([
      ['On issue nothing is paid, charged or amortized yet', '', undefined],
    ]);
    const between = made({ dated: day('2024-01-01'), issued: day('2024-03-01'), rounding: cents });
    expect(told(between, 0, 'opening').at(-1)).toEqual([
      'Coupon accrued came in besides, and is owed apart',
      133_333,
      undefined,
    ]);
    expect([
      explainDiscountAtIssue(made()),
      explainDiscountAtIssue(made({ price: priced('104') })),
    ]).toMatchObject([
      { title: 'Discount at issue', amount: 500_000 },
      { title: 'Premium at issue', amount: 400_000 },
    ]);
  });

  it('of a coupon leads to what made it', () => {
    const bond = made();
    expect(told(bond, 2, 'opening')).toEqual([
      ['Closing of the row before', bond.rows[2]?.opening, '1 closing'],
    ]);
    expect(
      told(bond, 1, 'closing').map((step) => (step as unknown[]).slice(0, 1).concat((step as unknown[])[2])),
    ).toEqual([
      ['Opening', '1 opening'],
      ['+ amortization', '1 amortization'],
    ]);
    expect(told(bond, 1, 'coupon')).toEqual([
      ['Face outstanding', 10_000_000, 'face'],
      ['× coupon rate', '8.00%', 'coupon'],
      ['× share of the year', '1/2', 'dayCount'],
      ['Period', '2024-01-01 to 2024-07-01', undefined],
    ]);
    expect(told(bond, 1, 'unamortized')).toHaveLength(2);
    expect(told(bond, 1, 'paid')).toEqual([['No face falls due with this coupon', '', undefined]]);
    const instalments = [{ on: day('2025-01-01'), face: 2_000_000, at: 0 }];
    expect(told(made({ instalments }), 2, 'gain').map((step) => (step as unknown[])[1])).toEqual([
      2_000_000, 2_000_000,
    ]);
    expect(told(made({ instalments }), 2, 'paid')).toEqual([
      ['Face due by agreement', 2_000_000, 'redemptions'],
    ]);
    expect(told(made({ instalments }), 2, 'closing').at(-1)).toEqual([
      '− carrying amount retired',
      2_000_000,
      '2 retired',
    ]);
  });

  it('of interest says at which rate, on what, and what was left to the last', () => {
    const labels = (schedule: BondSchedule, row: number): string[] =>
      told(schedule, row, 'expense').map((step) => (step as [string])[0]);
    expect(labels(made(), 1)).toEqual([
      'Opening carrying amount',
      '× effective rate of the period',
      expect.stringMatching(/^That is .*% a year, compounded half-yearly$/),
    ]);
    expect(labels(made({ price: priced('92.2783') }), 10).slice(3)).toEqual([
      'That comes to',
      '+ difference left to the last row, which lands on face',
    ]);
    const ended = made({ price: priced('92.2783') });
    const [, , , byRate, left] = explainBondFigure(ended, 10, 'expense').steps;
    expect((byRate?.amount ?? 0) + (left?.amount ?? 0)).toBe(ended.rows[10]?.expense);
    expect(Math.abs(left?.amount ?? 0)).toBeLessThan(1_000);
    const exact = made({ rounding: { ...cents, interest: 'none' } });
    expect(labels(exact, 9)).toHaveLength(3);
    const between = made({ dated: day('2024-01-01'), issued: day('2024-03-01') });
    expect(labels(between, 1)[1]).toBe('+ accrued coupon received at issue');
    expect(labels(between, 2)[1]).toBe('× effective rate of the period');
    const inRate = made({ issueCosts: { amount: 20_000, method: 'effective' } });
    expect(labels(inRate, 1)[1]).toBe('× effective rate of the period, net of costs');
    const apart = made({ issueCosts: { amount: 20_000, method: 'straight-line' } });
    expect(labels(apart, 1)).toEqual([
      'Opening carrying amount',
      '+ issue costs, amortized apart',
      '× effective rate of the period',
      expect.stringMatching(/^That is/),
      '+ issue costs amortized',
    ]);
    expect(told(apart, 1, 'expense')[1]).toEqual(['+ issue costs, amortized apart', 20_000, undefined]);
    expect(told(apart, 1, 'costsAmortized')).toEqual([
      ['An equal part of the issue costs', 2_000, 'issueCosts'],
      ['Issue costs', 20_000, undefined],
    ]);
    expect(told(inRate, 1, 'costsAmortized').map((step) => (step as [string])[0])).toEqual([
      'Amortized in all, at the rate net of costs',
      expect.stringMatching(/^− discount or premium, at the rate of the price, \d/),
    ]);
    const straight = made({ method: 'straight-line', dated: day('2024-01-01'), issued: day('2024-03-01') });
    expect(labels(straight, 1)).toEqual([
      'Coupon',
      '− accrued coupon received at issue',
      '+ an equal part of the discount, the premium and the costs',
    ]);
    expect(labels(straight, 2)).toHaveLength(2);
    expect(told(straight, 1, 'received')[0]).toEqual([
      'Accrued from 2024-01-01 to the issue',
      straight.rows[1]?.received,
      'dated',
    ]);
  });

  it('of a redemption is of the face redeemed, at its price', () => {
    const bond = made({ redemptions: [redeemed(4_000_000)] });
    const at = bond.rows.findIndex(({ kind }) => kind === 'redemption');
    expect(told(bond, at, 'paid')).toEqual([
      ['Face redeemed', 4_000_000, 'redemptions'],
      ['× price', '101.00%', undefined],
    ]);
    expect(explainBondFigure(bond, at, 'paid').amount).toBe(4_040_000);
    expect(told(bond, at, 'retired').map((step) => (step as unknown[])[2])).toEqual([
      `${at} opening`,
      `${at} amortization`,
      `${at} closing`,
    ]);
    expect(told(bond, at, 'expense')).toHaveLength(2);
    expect(explainBondFigure(bond, at, 'closing').title).toBe(
      'Closing carrying amount, redemption of 2026-03-01',
    );
    expect(explainBondFigure(bond, at, 'gain').title).toBe('Loss on redemption, 2026-03-01');
    const cheap = made({ redemptions: [redeemed(4_000_000, '90')] });
    expect(explainBondFigure(cheap, at, 'gain').title).toBe('Gain on redemption, 2026-03-01');
    expect(told(bond, at, 'coupon')[0]).toEqual(['Face redeemed', 4_000_000, 'redemptions']);
    // Within the first period part of the coupon that came in belongs to the face redeemed.
    const early = made({
      dated: day('2024-01-01'),
      issued: day('2024-03-01'),
      redemptions: [{ ...redeemed(4_000_000), on: day('2024-05-01') }],
    });
    expect(told(early, 1, 'expense')[1]).toEqual([
      '− accrued coupon received at issue',
      early.rows[1]?.received,
      '1 received',
    ]);
  });
});
