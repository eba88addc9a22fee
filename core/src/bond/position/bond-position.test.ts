import { describe, expect, it } from 'vitest';
import { formatDay } from '../../calendar/calendar-day.ts';
import type { Position } from '../../position/position-figures.ts';
import { day, percent, plainBond, priced } from '../../testing/plain-bond.ts';
import type { BondSchedule } from '../schedule/bond-schedule.ts';
import { buildBondSchedule } from '../schedule/bond-walk.ts';
import type { BondTerms, EarlyRedemption, Instalment } from '../terms/bond-terms.ts';
import { bondAccruedBasis, bondInterestBasis } from './bond-basis.ts';
import { bondPosition, faceDue } from './bond-position.ts';

const cent = { interest: 'cent', ties: 'away-from-zero' } as const;
const built = (more: Partial<BondTerms>, coupon = '8'): BondSchedule =>
  buildBondSchedule(plainBond(coupon, { price: priced('97'), rounding: cent, ...more }));
const at = (more: Partial<BondTerms>, on: string, coupon = '8'): Position =>
  bondPosition(built(more, coupon), day(on));
const instalments: readonly Instalment[] = [
  { on: day('2027-01-01'), face: 2_000_000, at: 0 },
  { on: day('2028-01-01'), face: 3_000_000, at: 1 },
];
const redeemed = (face: number): readonly EarlyRedemption[] => [
  { on: day('2026-04-01'), face, price: percent('102'), at: 0 },
];

// 100,000.00 at 8 % by 30/360 from New Year 2024 to New Year 2029, sold at 97: coupons of 4,000.00 on 1 January and July.
describe('the next payment of a bond', () => {
  const next = (more: Partial<BondTerms>, coupon?: string): unknown[] =>
    ['2023-12-31', '2024-01-01', '2024-07-01', '2026-12-31', '2027-01-01', '2028-12-31', '2029-01-01'].map(
      (on) => {
        const found = at(more, on, coupon).next;
        return found && [formatDay(found.due), found.payment];
      },
    );

  it('is the coupon that accrues, with the face due on its day; without coupons the next face due', () => {
    expect(next({})).toEqual([
      null,
      ...[
        ['2024-07-01', 400_000],
        ['2025-01-01', 400_000],
        ['2027-01-01', 400_000],
      ],
      ...[
        ['2027-07-01', 400_000],
        ['2029-01-01', 10_400_000],
      ],
      null,
    ]);
    expect(next({ instalments })).toEqual([
      null,
      ...[
        ['2024-07-01', 400_000],
        ['2025-01-01', 400_000],
        ['2027-01-01', 2_400_000],
      ],
      ...[
        ['2027-07-01', 320_000],
        ['2029-01-01', 5_200_000],
      ],
      null,
    ]);
    expect(next({ instalments, price: priced('70') }, '0')).toEqual([
      null,
      ...[
        ['2027-01-01', 2_000_000],
        ['2027-01-01', 2_000_000],
        ['2027-01-01', 2_000_000],
      ],
      ...[
        ['2028-01-01', 3_000_000],
        ['2029-01-01', 5_000_000],
      ],
      null,
    ]);
  });

  // IAS 1.76: what happens after the day is not known on it.
  it('is as it is agreed on the day, whatever is redeemed after it', () => {
    const around = (face: number): unknown[] =>
      ['2026-03-31', '2026-04-01'].map((on) => at({ redemptions: redeemed(face) }, on).next?.payment);
    expect(around(4_000_000)).toEqual([400_000, 240_000]);
    expect(around(10_000_000)).toEqual([400_000, undefined]);
  });
});

describe('the position of a bond', () => {
  it('has as current its instalments of a year, with their share of what is unamortized', () => {
    // 3,000.00 of discount and 600.00 of costs in a straight line over ten periods: after four 60 % of them is left, of a
    // face of which a fifth falls due within the year.
    const straight = {
      method: 'straight-line',
      issueCosts: { amount: 60_000, method: 'straight-line' },
    } as const;
    expect(at(straight, '2026-01-01')).toMatchObject({
      ...{ outstanding: 10_000_000, unamortizedDiscount: 180_000, unamortizedIssueCosts: 36_000 },
      ...{ carrying: 9_784_000, current: 0, nonCurrent: 9_784_000 },
    });
    const due = at({ ...straight, instalments }, '2026-01-01');
    expect(due.current).toBe(Math.round(due.carrying * 0.2));
    expect(due.nonCurrent).toBe(due.carrying - due.current);
    expect(at({ ...straight, instalments }, '2025-12-31').current).toBe(0);
    // The last year: all of it, at what it is carried at.
    const last = at({ ...straight, instalments }, '2028-06-30');
    expect([last.outstanding, last.current]).toEqual([5_000_000, last.carrying]);
  });

  it('has a year to the end of the month as its window, and what is stated for the day in its place', () => {
    const ends = { issued: day('2023-02-28'), matures: day('2028-02-29'), keepMonthEnd: true };
    expect(at(ends, '2027-02-27').current).toBe(0);
    expect(at(ends, '2027-02-28').current).toBe(at(ends, '2027-02-28').carrying);
    const stated = (as: 'current' | 'non-current'): Partial<BondTerms> => ({
      events: [{ type: 'presentation', on: day('2026-06-30'), as, reason: 'Breach' }],
    });
    const { carrying } = at({}, '2026-07-31');
    expect([
      at(stated('current'), '2026-07-31').current,
      at(stated('current'), '2026-06-29').current,
    ]).toEqual([carrying, 0]);
    expect([at({}, '2028-07-31').current > 0, at(stated('non-current'), '2028-07-31').current]).toEqual([
      true,
      0,
    ]);
  });

  it('counts what falls due after a day to the end of another', () => {
    const due = (on: string, to: string, more: Partial<BondTerms> = { instalments }): number =>
      faceDue(built(more), day(on), day(to));
    expect(due('2026-12-31', '2026-12-31')).toBe(0);
    expect(due('2026-12-31', '2027-01-01')).toBe(2_000_000);
    expect(due('2027-01-01', '2027-12-31')).toBe(0);
    expect(due('2027-01-01', '2029-01-01')).toBe(8_000_000);
    expect(due('2023-12-31', '2030-01-01')).toBe(0);
    // Of 40 % that was redeemed nothing falls due any more: each instalment is less by as much (common practice).
    const some = { instalments, redemptions: redeemed(4_000_000) };
    expect([due('2026-03-31', '2027-01-01', some), due('2026-04-01', '2027-01-01', some)]).toEqual([
      2_000_000, 1_200_000,
    ]);
  });
});

describe('what coupon interest was worked out over', () => {
  const accrued = (more: Partial<BondTerms>, on: string): unknown => {
    const { days, years, balanceYears, rateYears, interest, rounding } = bondAccruedBasis(
      built(more),
      day(on),
    );
    return [days, years, balanceYears, rateYears, interest, rounding];
  };
  const between = (more: Partial<BondTerms>, after: string, through: string): unknown => {
    const { days, balanceYears, rateYears, interest, rounding } = bondInterestBasis(
      built(more),
      day(after),
      day(through),
    );
    return [days, Math.round(balanceYears), Number(rateYears.toFixed(6)), Math.round(interest), rounding];
  };
  const none = [0, 0, 0, 0, 0, 0];

  it('is the face and the rate over the days of the running period', () => {
    expect(['2023-12-31', '2024-01-01', '2024-07-01', '2029-01-01'].map((on) => accrued({}, on))).toEqual([
      none,
      none,
      none,
      none,
    ]);
    expect(accrued({}, '2024-04-01')).toEqual([90, 0.25, 2_500_000, 0.02, 200_000, 2]);
    expect(accrued({ rounding: { ...cent, interest: 'unit' } }, '2024-04-01')).toEqual([
      90, 0.25, 2_500_000, 0.02, 200_000, 200,
    ]);
    // What is left after a redemption has accrued since the period began; the rest was paid with it.
    expect(accrued({ redemptions: redeemed(4_000_000) }, '2026-04-01')).toEqual([
      90, 0.25, 1_500_000, 0.02, 120_000, 2,
    ]);
  });

  it('is cut where periods, redemptions and days asked for begin and end', () => {
    expect(between({}, '2023-12-31', '2024-04-01')).toEqual([90, 2_500_000, 0.02, 200_000, 2]);
    // Four months of one period and three of the next.
    expect(between({}, '2024-03-01', '2024-10-01')).toEqual([210, 5_833_333, 0.046667, 466_667, 4]);
    // A month on all of it, a month on 60 %.
    expect(between({ redemptions: redeemed(4_000_000) }, '2026-03-01', '2026-05-01')).toEqual([
      60, 1_333_333, 0.013333, 106_667, 4,
    ]);
    expect(between({ redemptions: redeemed(10_000_000) }, '2026-03-01', '2026-05-01')).toEqual([
      30, 833_333, 0.006667, 66_667, 2,
    ]);
    expect(between({}, '2028-12-01', '2030-01-01')).toEqual([30, 833_333, 0.006667, 66_667, 2]);
    expect(between({}, '2024-03-01', '2024-03-01')).toEqual([0, 0, 0, 0, 0]);
    // Coupon sold with the bond is nobody's interest.
    expect(
      between({ dated: day('2024-01-01'), issued: day('2024-03-01') }, '2023-12-31', '2024-04-01'),
    ).toEqual([30, 833_333, 0.006667, 66_667, 2]);
    expect(accrued({ dated: day('2024-01-01'), issued: day('2024-03-01') }, '2024-04-01')).toEqual(
      accrued({}, '2024-04-01'),
    );
  });
});
