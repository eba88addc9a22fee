import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addMonths, parseDay } from '../calendar/calendar-day.ts';
import { type DayCountName } from '../calendar/day-counts/day-counts.ts';
import { explainBondFigure } from '../explain/explain.ts';
import { bondAccrual } from '../position/bond-position.ts';
import { ratio, ratioFromDecimal } from '../money/ratio.ts';
import { arbitraryBond } from './arbitrary-bond.ts';
import { bondProofs } from './bond-proofs.ts';
import { decimalOf, PreciseDecimal, priceFromYield } from './bond-price.ts';
import { buildBondSchedule, type BondSchedule } from './bond-schedule.ts';
import type { BondTerms } from './bond-terms.ts';
import { couponPeriods } from './coupon-periods.ts';
import { yieldFromPrice } from './yield-from-price.ts';

const day = (text: string): number => parseDay(text) as number;
const percent = (text: string): BondTerms['couponRate'] => {
  const value = ratioFromDecimal(text);
  return ratio(value.num, value.den * 100n);
};

/** A five-year half-yearly bond of 100,000 by 30/360, as the textbooks have it. */
function textbook(coupon: string, more: Partial<BondTerms>): BondTerms {
  return {
    kind: 'bond',
    currency: 'USD',
    digits: 2,
    face: 10_000_000,
    issued: day('2024-01-01'),
    matures: day('2029-01-01'),
    couponRate: percent(coupon),
    every: 'half-year',
    dayCount: '30/360',
    keepMonthEnd: false,
    effectiveRate: 'yield',
    rounding: { interest: 'unit', ties: 'away-from-zero' },
    ...more,
  };
}

const units = (schedule: BondSchedule): number[][] =>
  schedule.rows
    .slice(1)
    .map((row) =>
      [row.coupon, row.expense, Math.abs(row.amortization), row.closing].map((minor) => minor / 100),
    );

describe('published bonds', () => {
  // Kieso, Weygandt and Warfield, Intermediate Accounting, chapter 14; from memory, reproduced by computation.
  it.each([
    ['8', '10', 92_278],
    ['8', '6', 108_530],
    ['10', '8', 108_111],
  ])('%s %% sold to yield %s %% brings %d', (coupon, market, proceeds) => {
    const schedule = buildBondSchedule(textbook(coupon, { marketYield: percent(market) }));
    expect(schedule.proceeds / 100).toBe(proceeds);
  });

  // The same book's discount table; from row 6 on the book carries 4,783 where 5 % of 95,671 is 4,783.55.
  it('Kieso discount table', () => {
    const rows = units(buildBondSchedule(textbook('8', { marketYield: percent('10') })));
    expect(rows.slice(0, 5)).toEqual([
      [4000, 4614, 614, 92_892],
      [4000, 4645, 645, 93_537],
      [4000, 4677, 677, 94_214],
      [4000, 4711, 711, 94_925],
      [4000, 4746, 746, 95_671],
    ]);
    expect(rows.reduce((sum, row) => sum + (row[1] ?? 0), 0)).toBe(47_722);
    expect(rows.at(-1)?.[3]).toBe(100_000);
  });

  // Weygandt, Kimmel and Kieso, Accounting Principles, premium table in whole dollars; from memory, reproduced.
  it('Weygandt premium table, every row', () => {
    expect(units(buildBondSchedule(textbook('10', { marketYield: percent('8') })))).toEqual([
      [5000, 4324, 676, 107_435],
      [5000, 4297, 703, 106_732],
      [5000, 4269, 731, 106_001],
      [5000, 4240, 760, 105_241],
      [5000, 4210, 790, 104_451],
      [5000, 4178, 822, 103_629],
      [5000, 4145, 855, 102_774],
      [5000, 4111, 889, 101_885],
      [5000, 4075, 925, 100_960],
      [5000, 4040, 960, 100_000],
    ]);
  });

  // Weygandt, discount table from proceeds of 92,639 (the book prices with five-digit factors): row 1.
  it('Weygandt discount, first row from the price the book uses', () => {
    const price = { ofFace: ratioFromDecimal('0.92639'), decimals: 3 };
    const schedule = buildBondSchedule(textbook('10', { price, marketYield: percent('12') }));
    expect(units(schedule)[0]).toEqual([5000, 5558, 558, 93_197]);
  });

  // Kieso, premium table in whole dollars; the book rounds here and there so that a row may differ by one.
  it('Kieso premium table, every row', () => {
    const book = [
      [3256, 744, 107_786],
      [3234, 766, 107_020],
      [3211, 789, 106_231],
      [3187, 813, 105_418],
      [3162, 838, 104_580],
      [3137, 863, 103_717],
      [3112, 888, 102_829],
      [3085, 915, 101_914],
      [3057, 943, 100_971],
      [3029, 971, 100_000],
    ];
    const rows = units(buildBondSchedule(textbook('8', { marketYield: percent('6') })));
    rows.forEach((row, at) => {
      row.slice(1).forEach((figure, column) => {
        expect(Math.abs(figure - (book[at]?.[column] ?? 0))).toBeLessThanOrEqual(1);
      });
    });
    expect(rows.reduce((sum, row) => sum + (row[1] ?? 0), 0)).toBe(31_470);
  });

  // Kieso, chapter 7: a three-year 10,000 note without interest at 9 %; the same at 10 % sold to yield 12 %.
  it('Kieso notes at a discount', () => {
    const three = { face: 1_000_000, matures: day('2027-01-01'), every: 'year' as const };
    const cents = { interest: 'cent' as const, ties: 'away-from-zero' as const };
    const bare = buildBondSchedule(textbook('0', { ...three, rounding: cents, marketYield: percent('9') }));
    expect(bare.proceeds).toBe(772_183);
    const fromBook = {
      price: { ofFace: ratioFromDecimal('0.772180'), decimals: 4 },
      marketYield: percent('9'),
    };
    const rows = units(buildBondSchedule(textbook('0', { ...three, rounding: cents, ...fromBook })));
    expect(rows.map((row) => [row[1], row[3]])).toEqual([
      [694.96, 8416.76],
      [757.51, 9174.27],
      [825.73, 10_000],
    ]);
    const at12 = { price: { ofFace: ratioFromDecimal('0.9520'), decimals: 2 }, marketYield: percent('12') };
    expect(units(buildBondSchedule(textbook('10', { ...three, ...at12 })))).toEqual([
      [1000, 1142, 142, 9662],
      [1000, 1159, 159, 9821],
      [1000, 1179, 179, 10_000],
    ]);
  });

  // IFRS 9 Guidance on Implementing, B.26, table in whole units: opening, interest, cash, closing before redemption.
  it('IFRS 9 B.26 table at 10 %', () => {
    const schedule = buildBondSchedule(
      textbook('4.72', {
        face: 125_000,
        every: 'year',
        price: { ofFace: ratio(4n, 5n), decimals: 0 },
        marketYield: percent('10'),
      }),
    );
    const book = [
      [59, 100, 1041],
      [59, 104, 1086],
      [59, 109, 1136],
      [59, 113, 1190],
      [59, 119, 1250],
    ];
    units(schedule).forEach(([coupon, expense, , closing], at) => {
      const [cash, interest, amortized] = book[at] as [number, number, number];
      expect(coupon).toBe(cash);
      expect(Math.abs((expense ?? 0) - interest)).toBeLessThanOrEqual(1);
      expect(Math.abs((closing ?? 0) - amortized)).toBeLessThanOrEqual(1);
    });
  });

  // Kieso, chapter 14, accrual two months into the premium bond's first half-year: 1,333.33 of coupon, 248.00 of
  // premium (a third of the book's 744), 1,085.33 of expense.
  it('Kieso accrual between coupons', () => {
    const schedule = buildBondSchedule(textbook('8', { marketYield: percent('6') }));
    const cents = {
      ...schedule,
      terms: { ...schedule.terms, rounding: { interest: 'cent', ties: 'away-from-zero' } },
    } as const;
    const accrual = bondAccrual(cents, day('2024-03-01'));
    expect([accrual?.coupon, accrual?.amortization]).toEqual([133_333, -24_800]);
  });

  // 26 CFR 1.1272-1(j), Example 1: 1,000,000 in five years at 8 % compounded half-yearly; from memory, reproduced.
  it('original issue discount of the regulations', () => {
    const cents = { interest: 'cent' as const, ties: 'away-from-zero' as const };
    const schedule = buildBondSchedule(
      textbook('0', { face: 100_000_000, rounding: cents, marketYield: percent('8') }),
    );
    expect(schedule.proceeds).toBe(67_556_417);
    expect(schedule.rows[1]?.amortization).toBe(2_702_257);
  });

  // IFRS 9 Guidance on Implementing, B.26: 59 a year and 1,250 at the end for 1,000 yields 10 % (9.9953 %).
  it('IFRS 9 B.26 effective rate', () => {
    const terms = textbook('4.72', {
      face: 125_000,
      every: 'year',
      price: { ofFace: ratio(4n, 5n), decimals: 0 },
      effectiveRate: 'from-price',
    });
    const schedule = buildBondSchedule(terms);
    expect(schedule.proceeds).toBe(100_000);
    expect(schedule.effectiveRate.times(100).toFixed(20)).toBe('9.99531866890687261129');
    expect(schedule.residual.abs().lessThan('1e-30')).toBe(true);
  });
});

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
    const terms = textbook(coupon, { matures: addMonths(day('2024-01-01'), 12 * years) });
    const { clean } = priceFromYield(terms, couponPeriods(terms), decimalOf(percent(market)), terms.issued);
    expect(clean.times(100).toDecimalPlaces(places).toNumber()).toBe(price);
  });

  const rows = readFileSync(new URL('../../reference/bond-prices.csv', import.meta.url), 'utf8')
    .trim()
    .split('\n')
    .slice(1);

  // reference/bond-prices.csv: 50-digit arithmetic agreeing with QuantLib 1.29; tolerance 1e-9 as stated there.
  it.each(rows)('%s', (row) => {
    const [
      ,
      issued = '',
      matures = '',
      coupon = '',
      perYear,
      dayCount,
      monthEnd,
      on = '',
      market = '',
      clean,
      dirty,
      accrued,
    ] = row.split(',');
    const terms = {
      issued: day(issued),
      matures: day(matures),
      every: perYear === '1' ? ('year' as const) : ('half-year' as const),
      dayCount: dayCount as DayCountName,
      keepMonthEnd: monthEnd === 'True',
      couponRate: ratioFromDecimal(coupon),
    };
    const periods = couponPeriods(terms);
    const price = priceFromYield(terms, periods, new PreciseDecimal(market), day(on));
    expect(price.clean.times(100).toNumber()).toBeCloseTo(Number(clean), 9);
    expect(price.accrued.times(100).toNumber()).toBeCloseTo(Number(accrued), 9);
    const solved = yieldFromPrice(terms, periods, new PreciseDecimal(dirty ?? 0).div(100), day(on));
    expect(solved.yearly.toNumber()).toBeCloseTo(Number(market), 12);
  });
});

describe('any bond', () => {
  it('has proofs that hold, and figures that explain themselves', () => {
    fc.assert(
      fc.property(arbitraryBond, (terms) => {
        const schedule = buildBondSchedule(terms);
        expect(bondProofs(schedule).filter((proof) => !proof.holds)).toEqual([]);
        for (const row of schedule.rows) {
          for (const figure of ['coupon', 'expense', 'closing'] as const) {
            if (row.n > 0) expect(explainBondFigure(schedule, row.n, figure).amount).toBe(row[figure]);
          }
        }
      }),
      { numRuns: 120 },
    );
  });

  it('gives back the yield its price was made from', () => {
    fc.assert(
      fc.property(arbitraryBond, fc.integer({ min: 1, max: 3000 }), (terms, market) => {
        const periods = couponPeriods(terms);
        const yearly = decimalOf(ratio(BigInt(market), 10_000n));
        const { dirty } = priceFromYield(terms, periods, yearly, terms.issued);
        const solved = yieldFromPrice(terms, periods, dirty, terms.issued);
        expect(solved.yearly.minus(yearly).abs().lessThan('1e-30')).toBe(true);
      }),
      { numRuns: 60 },
    );
  });
});

describe('bonds that cannot be', () => {
  it('are refused with the reason', () => {
    const market = { marketYield: percent('5') };
    const off = textbook('8', { ...market, matures: day('2029-03-01') });
    expect(() => buildBondSchedule(off)).toThrow('not on a coupon date');
    const before = textbook('8', { ...market, matures: day('2023-01-01') });
    expect(() => buildBondSchedule(before)).toThrow('not after its issue');
    expect(() => buildBondSchedule(textbook('8', {}))).toThrow('Give the price');
  });
});
