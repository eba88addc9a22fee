import { describe, expect, it } from 'vitest';
import { formatDay } from '../../calendar/calendar-day.ts';
import { TermsFault } from '../../faults/terms-fault.ts';
import { ratioToNumber } from '../../money/ratio.ts';
import { day, percent, plainBond, priced } from '../../testing/plain-bond.ts';
import { buildBondSchedule } from '../schedule/bond-walk.ts';
import type { BondTerms, EarlyRedemption, Instalment } from './bond-terms.ts';
import { contractualFlows } from './contractual-flows.ts';
import { couponPeriods, periodsAfter, yearsWithin, type CouponPeriod } from './coupon-periods.ts';

/** The key and the words of what is refused; nothing where it is not. */
const refused = (more: Partial<BondTerms>, coupon = '8'): string => {
  try {
    buildBondSchedule(plainBond(coupon, { price: priced('95'), ...more }));
    return '';
  } catch (error) {
    if (error instanceof TermsFault) return `${error.key}: ${error.message}`;
    throw error;
  }
};
const instalment = (on: string, face: number, at = 0): Instalment => ({ on: day(on), face, at });
const redemption = (on: string, face = 1_000_000, at = 0): EarlyRedemption => ({
  on: day(on),
  face,
  price: percent('100'),
  at,
});

// A half-yearly bond of 100,000.00 from 1 January 2024 to 1 January 2029. Each rule at its bound, and beyond it.
describe('terms that no bond has', () => {
  it('of its days', () => {
    expect(refused({})).toBe('');
    expect(refused({ dated: day('2023-07-01') })).toBe('');
    expect(refused({ dated: day('2024-01-02') })).toMatch(
      /^dated: Interest would run from 2024-01-02, after .*2024-01-01/,
    );
    expect(refused({ issued: day('2028-12-01'), dated: day('2024-01-01'), price: priced('100') })).toBe('');
    expect(refused({ issued: day('2029-01-01'), dated: day('2024-01-01') })).toMatch(
      /^matures: .*not after its issue on 2029-01-01/,
    );
    expect(() => couponPeriods(plainBond('8', { dated: day('2029-01-01') }))).toThrow(
      'not after 2029-01-01, when it begins',
    );
    expect(refused({ dated: day('2023-12-15') })).toMatch(
      /^matures: .*fall on 2023-07-01 and 2024-01-01; 2023-12-15 is not/,
    );
    expect(refused({ dated: day('2023-12-15'), zeroCoupon: true }, '0')).toBe('');
    expect(refused({ every: 'month', matures: day('2124-01-01') })).toBe('');
    expect(refused({ every: 'month', matures: day('2124-02-01') })).toMatch(
      /^matures: Up to 1200 coupon periods are kept; this bond has 1201/,
    );
  });

  it('of its first and last coupons', () => {
    const dated = day('2023-12-15');
    const first = (on: string, more: Partial<BondTerms> = {}): string =>
      refused({ dated, firstCoupon: day(on), ...more });
    expect(first('2024-07-01')).toBe('');
    expect(first('2029-01-01')).toBe('');
    expect(first('2029-07-01')).toMatch(/^coupon\.first: .*after 2023-12-15 and by 2029-01-01/);
    expect(first('2023-12-15')).toMatch(/^coupon\.first: .*must come after/);
    expect(first('2024-08-01')).toMatch(
      /^coupon\.first: Counted back from maturity, coupons fall on 2024-07-01 and 2025-01-01, not on 2024-08-01/,
    );
    const last = (on: string, more: Partial<BondTerms> = {}): string =>
      refused({ lastCoupon: day(on), ...more });
    expect(last('2028-07-01', { matures: day('2028-10-01') })).toBe('');
    expect(last('2028-10-01', { matures: day('2028-10-01') })).toMatch(
      /^coupon\.last: .*between 2024-01-01 and 2028-10-01/,
    );
    expect(last('2024-01-01', { matures: day('2028-10-01') })).toMatch(/^coupon\.last/);
    expect(first('2024-08-01', { lastCoupon: day('2028-07-01'), matures: day('2028-10-01') })).toMatch(
      /Counted back from the last coupon/,
    );
  });

  it('of its costs', () => {
    const costs = (method: BondTerms['method'], of: BondTerms['method']): string =>
      refused({ method, issueCosts: { amount: 10_000, method: of } });
    expect([
      costs('effective', 'effective'),
      costs('effective', 'straight-line'),
      costs('straight-line', 'straight-line'),
    ]).toEqual(['', '', '']);
    expect(costs('straight-line', 'effective')).toMatch(/^issueCosts\.method/);
    expect(refused({ issueCosts: { amount: 9_499_999, method: 'straight-line' } })).toBe('');
    expect(refused({ issueCosts: { amount: 9_500_000, method: 'straight-line' } })).toMatch(
      /^issueCosts\.amount: .*leave nothing/,
    );
  });

  it('of what is redeemed before maturity', () => {
    const on = (...days: string[]): string =>
      refused({ redemptions: days.map((each, at) => redemption(each, 1_000_000, at)) });
    expect(on('2024-01-02', '2028-12-31')).toBe('');
    expect(on('2024-01-01')).toMatch(/^redemptions\.0\.on: .*after the issue on 2024-01-01/);
    expect(on('2024-05-01', '2029-01-01')).toMatch(
      /^redemptions\.1\.on: .*before 2029-01-01; found 2029-01-01/,
    );
    expect(refused({ redemptions: [redemption('2024-05-01', 10_000_000)] })).toBe('');
    expect(refused({ redemptions: [redemption('2024-05-01', 10_000_001)] })).toMatch(
      /^redemptions\.0\.face: On 2024-05-01 100000\.00 of face is outstanding, so 100000\.01 cannot/,
    );
  });

  it('of instalments', () => {
    const of = (...instalments: Instalment[]): string => refused({ instalments });
    expect(of(instalment('2024-07-01', 1), instalment('2025-01-01', 9_999_998, 1))).toBe('');
    expect(of(instalment('2024-07-02', 1))).toMatch(
      /^redemptions\.0\.on: .*2024-07-02 is none\. The next is 2025-01-01/,
    );
    expect(of(instalment('2024-01-01', 1))).toMatch(/^redemptions\.0\.on: .*The next is 2024-07-01/);
    expect(of(instalment('2029-07-01', 1))).toMatch(/^redemptions\.0\.on: .*The next is 2029-01-01/);
    expect(of(instalment('2025-01-01', 10_000_000))).toMatch(
      /^redemptions\.0\.face: .*left to fall due at maturity/,
    );
    expect(of(instalment('2025-01-01', 9_999_999))).toBe('');
    expect(of(instalment('2025-01-01', 4_000_000), instalment('2026-01-01', 6_000_001, 1))).toMatch(
      /^redemptions\.1\.face: With 60000\.01 on 2026-01-01 the instalments come to 100000\.01/,
    );
    expect(of(instalment('2025-01-01', 4_000_000), instalment('2029-01-01', 6_000_000, 1))).toBe('');
    expect(of(instalment('2025-01-01', 4_000_000), instalment('2029-01-01', 5_999_999, 1))).toMatch(
      /^redemptions\.1\.face: The instalments come to 99999\.99, 0\.01 short of the face/,
    );
  });
});

describe('coupon periods', () => {
  const told = (periods: readonly CouponPeriod[]): unknown[] =>
    periods.map(({ from, to, years }) => [formatDay(from), formatDay(to), years.num / years.den]);
  const short = { issued: day('2024-01-01'), matures: day('2025-01-01') };

  // 2006 ISDA Definitions, section 4.16(f): 180 of 360 days, and of an odd period what it has.
  it('are regular, and odd where the first or the last coupon is on a day of its own', () => {
    expect(told(couponPeriods(plainBond('8', short)))).toEqual([
      ['2024-01-01', '2024-07-01', 0.5],
      ['2024-07-01', '2025-01-01', 0.5],
    ]);
    expect(
      told(
        couponPeriods(plainBond('8', { ...short, dated: day('2023-12-01'), firstCoupon: day('2024-07-01') })),
      ),
    ).toEqual([
      ['2023-12-01', '2024-07-01', 210 / 360],
      ['2024-07-01', '2025-01-01', 0.5],
    ]);
    expect(
      told(
        couponPeriods(
          plainBond('8', { ...short, lastCoupon: day('2024-07-01'), matures: day('2024-11-01') }),
        ),
      ),
    ).toEqual([
      ['2024-01-01', '2024-07-01', 0.5],
      ['2024-07-01', '2024-11-01', 120 / 360],
    ]);
    const periods = couponPeriods(plainBond('8', short));
    expect([
      periodsAfter(periods, day('2024-06-30')).length,
      periodsAfter(periods, day('2024-07-01')).length,
    ]).toEqual([2, 1]);
  });

  // Common practice: what has passed and what remains make a whole, a 31st in it or not.
  it('are cut into what has passed and what remains of them', () => {
    const terms = plainBond('8', {
      issued: day('2024-01-15'),
      dated: day('2024-01-15'),
      matures: day('2025-01-15'),
    });
    const [period] = couponPeriods(terms);
    if (!period) throw new Error('A bond has a period.');
    for (const dayCount of ['30/360', 'ACT/365F', 'ACT/ACT-ISDA'] as const) {
      const [whole] = couponPeriods({ ...terms, dayCount });
      const within = (from: number, to: number): number => {
        const { num, den } = yearsWithin({ dayCount }, whole as CouponPeriod, from, to);
        return num / den;
      };
      const all = (whole?.years.num ?? 0) / (whole?.years.den ?? 1);
      expect(within(period.from, period.to)).toBeCloseTo(all, 12);
      for (const cut of ['2024-01-31', '2024-03-31', '2024-07-14'].map(day)) {
        expect(within(period.from, cut)).toBeGreaterThan(0);
        expect(within(cut, period.to)).toBeGreaterThan(0);
        expect(within(period.from, cut) + within(cut, period.to)).toBeCloseTo(all, 12);
      }
    }
  });

  it('pay the coupon on what is outstanding, each instalment, and the rest at maturity', () => {
    const terms = plainBond('8', { ...short, instalments: [instalment('2024-07-01', 4_000_000)] });
    const flows = contractualFlows(terms, couponPeriods(terms)).map(({ outstanding, coupon, principal }) =>
      [outstanding, coupon, principal].map(ratioToNumber),
    );
    expect(flows).toEqual([
      [1, 0.04, 0.4],
      [0.6, 0.024, 0.6],
    ]);
  });
});
