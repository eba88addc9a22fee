import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addMonths } from '../../calendar/calendar-day.ts';
import { cycleDate, cycleIndexOnOrAfter } from '../../calendar/payment-dates.ts';
import { ratio, ratioFromDecimal, ratioToNumber } from '../../money/ratio.ts';
import { arbitraryBond } from '../../testing/arbitrary-bond.ts';
import { decimalOf, PreciseDecimal, priceFromYield } from './bond-price.ts';
import type { BondTerms } from '../terms/bond-terms.ts';
import { buildBondSchedule } from '../schedule/bond-walk.ts';
import { contractualFlows, type ContractualFlow } from '../terms/contractual-flows.ts';
import { couponPeriods } from '../terms/coupon-periods.ts';
import { day, percent, plainBond, priced } from '../../testing/plain-bond.ts';
import { yieldFromPrice } from './yield-from-price.ts';

const flowsOf = (terms: BondTerms): ContractualFlow[] => contractualFlows(terms, couponPeriods(terms));

describe('price and yield', () => {
  // Fabozzi, Bond Markets, Analysis, and Strategies, chapters 2 and 4; 31 CFR 356 Appendix B, example A (a thirty-
  // year bond at 8.84 %). Per 100 of face, half-yearly; figures from memory, reproduced by computation.
  it.each([
    ['10', '11', 20, 91.977, 3],
    ['0', '9.4', 15, 25.212, 3],
    ['9', '9', 25, 100, 4],
    ['6', '9', 5, 88.1309, 4],
    ['6', '9', 25, 70.357, 4],
    ['0', '9', 5, 64.3928, 4],
    ['0', '9', 25, 11.071, 4],
    ['8.75', '8.84', 30, 99.057893, 6],
  ])('%s %% to yield %s %% over %d years is priced %d', (coupon, market, years, price, places) => {
    const terms = plainBond(coupon, { matures: addMonths(day('2024-01-01'), 12 * years) });
    const { clean } = priceFromYield(terms, flowsOf(terms), decimalOf(percent(market)), terms.issued);
    expect(clean.times(100).toDecimalPlaces(places).toNumber()).toBe(price);
  });

  const rows = readFileSync(new URL('../../../reference/bond-prices.csv', import.meta.url), 'utf8')
    .trim()
    .split('\n')
    .slice(1);

  // reference/bond-prices.csv: 50-digit arithmetic agreeing with QuantLib 1.29; tolerance 1e-9 as stated there.
  it.each(rows)('%s', (row) => {
    const [
      ,
      dated = '',
      matures = '',
      coupon = '',
      perYear = '',
      dayCount,
      monthEnd,
      first,
      on = '',
      market = '',
    ] = row.split(',');
    const [clean, dirty = '', accrued] = row.split(',').slice(10);
    const every = ({ '1': 'year', '2': 'half-year', '4': 'quarter', '12': 'month' } as const)[perYear];
    const cycle = { anchor: day(matures), every: every ?? 'year', keepMonthEnd: monthEnd === 'True' };
    const terms = plainBond(String(100 * Number(coupon)), {
      issued: day(dated),
      matures: day(matures),
      every: cycle.every,
      dayCount: dayCount as BondTerms['dayCount'],
      keepMonthEnd: cycle.keepMonthEnd,
      couponRate: ratioFromDecimal(coupon),
      ...(first === 'short' && { firstCoupon: cycleDate(cycle, cycleIndexOnOrAfter(cycle, day(dated))) }),
    });
    const flows = flowsOf(terms);
    const price = priceFromYield(terms, flows, new PreciseDecimal(market), day(on));
    expect(price.clean.times(100).toNumber()).toBeCloseTo(Number(clean), 9);
    expect(price.accrued.times(100).toNumber()).toBeCloseTo(Number(accrued), 9);
    const solved = yieldFromPrice(terms, flows, new PreciseDecimal(dirty).div(100), day(on));
    expect(solved.yearly.toNumber()).toBeCloseTo(Number(market), 12);
  });

  it('gives back the yield its price was made from', () => {
    fc.assert(
      fc.property(arbitraryBond, fc.integer({ min: 1, max: 3000 }), (terms, market) => {
        const flows = flowsOf(terms);
        const yearly = decimalOf(ratio(BigInt(market), 10_000n));
        const { dirty } = priceFromYield(terms, flows, yearly, terms.issued);
        const solved = yieldFromPrice(terms, flows, dirty, terms.issued);
        expect(solved.yearly.minus(yearly).abs().lessThan('1e-30')).toBe(true);
      }),
      { numRuns: 60 },
    );
  });

  // Common practice: a yield has no price below minus the coupons a year, and a price no yield beyond all sense.
  it('is refused where there is none', () => {
    const at =
      (market: string): (() => unknown) =>
      () =>
        buildBondSchedule(plainBond('8', { marketYield: { ...percent(market), num: -percent(market).num } }));
    expect(at('200')).toThrow('There is no price at a yield of -200%; it must be above -200%.');
    expect(at('99')).toThrow('a price is above 0 and at most 1000');
    expect(() => buildBondSchedule(plainBond('8', {}))).toThrow('Give the price');
  });

  // A price beyond those of any yield from -90 % to 10,000 %.
  it('has none for a price that no yield gives', () => {
    expect(() => buildBondSchedule(plainBond('8', { price: priced('0.01') }))).toThrow(/yield/);
    expect(() => buildBondSchedule(plainBond('0', { price: priced('10000000') }))).toThrow(/yield/);
  });

  // ASC 835-30-35-2: the rate is that of the price paid; a yield that is quoted beside it changes nothing then.
  it('follows from the price where that is agreed, whatever is stated beside it', () => {
    const rates = (effectiveRate: BondTerms['effectiveRate']): number[] => {
      const terms = plainBond('8', {
        marketYield: percent('9'),
        price: priced('96.04'),
        yieldDecimals: 2,
        effectiveRate,
      });
      const { rates: of, rows } = buildBondSchedule(terms);
      return [of.ofPrice.toNumber(), rows[1]?.exactExpense ? ratioToNumber(rows[1].exactExpense) : 0];
    };
    // 96.04365 is the price at 9 %.
    const [stated, statedExpense] = rates('yield');
    expect([stated, statedExpense]).toEqual([0.09, 9_604_000 * 0.045]);
    const [paid = 0, paidExpense = 0] = rates('from-price');
    expect(paid).toBeGreaterThan(0.09);
    expect(paid).toBeLessThan(0.0901);
    expect(paidExpense).toBeCloseTo((9_604_000 * paid) / 2, 4);
  });

  // Common practice: a month of 10 % on 92,155.80 is 767.965, and half a cent is rounded up.
  it('is charged exactly where it is stated, so that half a cent is one', () => {
    const terms = plainBond('8', {
      face: 10_000_003,
      every: 'month',
      marketYield: percent('10'),
      rounding: { interest: 'cent', ties: 'away-from-zero' },
    });
    expect(buildBondSchedule(terms).rows[1]).toMatchObject({ opening: 9_215_580, expense: 76_797 });
  });

  // Street convention (ICMA rule 803): what is left of a broken period compounds, four of six months to 1.05^(4/6).
  it('is compounded over what is left of the coupon period that a bond is sold in', () => {
    const terms = plainBond('8', {
      issued: day('2024-03-01'),
      dated: day('2024-01-01'),
      marketYield: percent('10'),
      rounding: { interest: 'cent', ties: 'away-from-zero' },
    });
    const { rows } = buildBondSchedule(terms);
    const coupons = [...Array(10).keys()].reduce((sum, at) => sum + 4 / 1.05 ** (4 / 6 + at), 0);
    // The price with the coupon of two months that is sold with the bond; in cents of 100,000.
    const dirty = (coupons + 100 / 1.05 ** (4 / 6 + 9)) * 100_000;
    const [, first] = rows;
    expect((first?.opening ?? 0) + 133_333).toBeCloseTo(dirty, -0.5);
    const expense = first ? ratioToNumber(first.exactExpense) : 0;
    expect(Math.abs(expense - dirty * (1.05 ** (4 / 6) - 1))).toBeLessThan(0.05);
  });

  // Common practice: a price quoted to the cent and its yield to a hundredth of a percent differ by their rounding only.
  it('and a price stated beside it do not belong together, beyond what their rounding explains', () => {
    const both = (price: string, yieldDecimals = 2): (() => unknown) => {
      const terms = plainBond('0', {
        face: 24_000_000,
        zeroCoupon: true,
        every: 'year',
        dayCount: 'ACT/365F',
        issued: day('2025-11-20'),
        dated: day('2025-11-20'),
        matures: day('2028-11-20'),
        marketYield: percent('6.75'),
        yieldDecimals,
        effectiveRate: 'yield',
        price: priced(price),
      });
      return () => buildBondSchedule(terms);
    };
    expect(both('96.75')).toThrow('At a yield of 6.75% the price is 82.189933');
    expect(both('82.20')).not.toThrow();
    // A hundredth of a percent of yield is 0.0231 of the price, a thousandth a tenth of that.
    expect(both('82.2100')).not.toThrow();
    expect(both('82.2100', 3)).toThrow('do not belong together');
    expect(both('82.20', 3)).not.toThrow();
    expect(both('82.2000', 3)).toThrow('do not belong together');
    expect(both('82.1700')).not.toThrow();
    expect(both('82.1700', 3)).toThrow('do not belong together');
  });
});
