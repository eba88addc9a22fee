import { describe, expect, it } from 'vitest';
import { bondAccrual } from './position/bond-position.ts';
import type { BondSchedule } from './schedule/bond-schedule.ts';
import { buildBondSchedule } from './schedule/bond-walk.ts';
import { day, percent, plainBond, priced } from '../testing/plain-bond.ts';

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
    const schedule = buildBondSchedule(plainBond(coupon, { marketYield: percent(market) }));
    expect(schedule.proceeds / 100).toBe(proceeds);
  });

  // The same book's discount table; from row 6 on the book carries 4,783 where 5 % of 95,671 is 4,783.55.
  it('Kieso discount table', () => {
    const rows = units(buildBondSchedule(plainBond('8', { marketYield: percent('10') })));
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
    expect(units(buildBondSchedule(plainBond('10', { marketYield: percent('8') })))).toEqual([
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
    const price = priced('92.639');
    const schedule = buildBondSchedule(plainBond('10', { price, marketYield: percent('12') }));
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
    const rows = units(buildBondSchedule(plainBond('8', { marketYield: percent('6') })));
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
    const bare = buildBondSchedule(plainBond('0', { ...three, rounding: cents, marketYield: percent('9') }));
    expect(bare.proceeds).toBe(772_183);
    const fromBook = {
      price: priced('77.2180'),
      marketYield: percent('9'),
    };
    const rows = units(buildBondSchedule(plainBond('0', { ...three, rounding: cents, ...fromBook })));
    expect(rows.map((row) => [row[1], row[3]])).toEqual([
      [694.96, 8416.76],
      [757.51, 9174.27],
      [825.73, 10_000],
    ]);
    const at12 = { price: priced('95.20'), marketYield: percent('12') };
    expect(units(buildBondSchedule(plainBond('10', { ...three, ...at12 })))).toEqual([
      [1000, 1142, 142, 9662],
      [1000, 1159, 159, 9821],
      [1000, 1179, 179, 10_000],
    ]);
  });

  // IFRS 9 Guidance on Implementing, B.26, table in whole units: opening, interest, cash, closing before redemption.
  it('IFRS 9 B.26 table at 10 %', () => {
    const schedule = buildBondSchedule(
      plainBond('4.72', {
        face: 125_000,
        every: 'year',
        price: priced('80'),
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
    const schedule = buildBondSchedule(plainBond('8', { marketYield: percent('6') }));
    const cents = {
      ...schedule,
      terms: { ...schedule.terms, rounding: { interest: 'cent', ties: 'away-from-zero' } },
    } as const;
    const accrual = bondAccrual(cents, day('2024-03-01'));
    expect([accrual?.coupon, accrual?.discount]).toEqual([133_333, -24_800]);
  });

  // 26 CFR 1.1272-1(j), Example 1: 1,000,000 in five years at 8 % compounded half-yearly; from memory, reproduced.
  it('original issue discount of the regulations', () => {
    const cents = { interest: 'cent' as const, ties: 'away-from-zero' as const };
    const schedule = buildBondSchedule(
      plainBond('0', { face: 100_000_000, rounding: cents, marketYield: percent('8') }),
    );
    expect(schedule.proceeds).toBe(67_556_417);
    expect(schedule.rows[1]?.amortization).toBe(2_702_257);
  });

  // IFRS 9 Guidance on Implementing, B.26: 59 a year and 1,250 at the end for 1,000 yields 10 % (9.9953 %).
  it('IFRS 9 B.26 effective rate', () => {
    const terms = plainBond('4.72', {
      face: 125_000,
      every: 'year',
      price: priced('80'),
    });
    const schedule = buildBondSchedule(terms);
    expect(schedule.proceeds).toBe(100_000);
    expect(schedule.rates.effective.times(100).toFixed(20)).toBe('9.99531866890687261129');
    expect(schedule.rates.residual.abs().lessThan('1e-30')).toBe(true);
  });
});
