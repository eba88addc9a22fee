import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compareMethods } from './compare/bond-methods.ts';
import { redemptionOutcome } from './compare/redemption-outcome.ts';
import { entries } from '../entries/entries.ts';
import { balancesOf } from '../entries/balances.ts';
import { explainBondFigure } from './explain/explain-bond.ts';
import type { BondFigure } from './explain/bond-figure.ts';
import { interestExpense } from '../position/interest-expense.ts';
import { maturities } from '../position/maturities.ts';
import { position } from '../position/position.ts';
import { ratio } from '../money/ratio.ts';
import { arbitraryBondWithEvents, bondCanBeScheduled } from '../testing/arbitrary-bond.ts';
import { bondProofs } from './schedule/bond-proofs.ts';
import type { BondSchedule } from './schedule/bond-schedule.ts';
import type { BondTerms, EarlyRedemption } from './terms/bond-terms.ts';
import { buildBondSchedule } from './schedule/bond-walk.ts';
import { day, percent, plainBond, priced } from '../testing/plain-bond.ts';

const cents = { interest: 'cent', ties: 'away-from-zero' } as const;
const redeemed = (on: string, face: number, price: string): EarlyRedemption => ({
  on: day(on),
  face,
  price: percent(price),
  at: 0,
});
const build = (coupon: string, more: Partial<BondTerms>): BondSchedule =>
  buildBondSchedule(plainBond(coupon, { rounding: cents, ...more }));

describe('sold between coupon dates', () => {
  // Kieso, Weygandt and Warfield, Intermediate Accounting, chapter 14 (figures from memory): 800,000 of ten-year 6 %
  // bonds dated 1 January, coupons 1 January and 1 July, sold at par on 1 March: 8,000 of coupon comes in with it.
  const schedule = build('6', {
    face: 80_000_000,
    dated: day('2024-01-01'),
    issued: day('2024-03-01'),
    matures: day('2034-01-01'),
    price: priced('100'),
  });

  it('takes the accrued coupon as owed, and the first coupon settles it', () => {
    expect([schedule.proceeds, schedule.accruedReceived]).toEqual([80_800_000, 800_000]);
    const [issue, coupon] = entries(schedule, day('2024-03-01'), day('2024-07-01'), 'none');
    expect(issue?.lines.map(({ account, credit }) => [account, credit])).toEqual([
      ['cash', 0],
      ['bonds-payable', 80_000_000],
      ['interest-payable', 800_000],
    ]);
    expect(coupon?.lines).toEqual([
      { account: 'interest-expense', debit: 1_600_000, credit: 0 },
      { account: 'interest-payable', debit: 800_000, credit: 0 },
      { account: 'cash', debit: 0, credit: 2_400_000 },
    ]);
    expect(position(schedule, day('2024-03-01')).accruedInterest).toBe(800_000);
  });
});

describe('straight-line', () => {
  // Weygandt, Kimmel and Kieso, Accounting Principles (figures from memory, reproduced): 100,000 of five-year 10 %
  // bonds sold for 92,639: 736.10 of discount each half-year; and 108,111 sold: 811.10 of premium.
  it.each([
    ['92.639', 73_610],
    ['108.111', -81_110],
  ])('spreads a price of %s equally', (price, each) => {
    const schedule = build('10', { price: priced(price), method: 'straight-line' });
    expect(schedule.rows.slice(1).map((row) => row.amortization)).toEqual(Array(10).fill(each));
    expect(schedule.rows[1]?.expense).toBe(500_000 + each);
  });

  // Common practice: what equal amounts leave is in the last, and an odd period counts by its length.
  it('leaves rounding to the last, and counts an odd period by its length', () => {
    const rows = build('8', {
      price: priced('99.99'),
      method: 'straight-line',
      matures: day('2025-07-01'),
    }).rows;
    expect(rows.map((row) => row.amortization)).toEqual([0, 333, 333, 334]);
    const odd = build('8', {
      price: priced('97'),
      method: 'straight-line',
      issued: day('2024-04-01'),
      firstCoupon: day('2024-07-01'),
      matures: day('2025-01-01'),
    }).rows;
    expect(odd.slice(1).map((row) => row.amortization)).toEqual([100_000, 200_000]);
  });

  // Bonds-outstanding method for serial bonds (Kieso, chapter 14; common practice): a fifth redeemed each year makes
  // fifteenths 5, 4, 3, 2, 1 of the discount.
  it('weighs serial bonds by what is outstanding', () => {
    const schedule = build('8', {
      every: 'year',
      price: priced('98.5'),
      method: 'straight-line',
      instalments: [2025, 2026, 2027, 2028].map((year, at) => ({
        on: day(`${year}-01-01`),
        face: 2_000_000,
        at,
      })),
    });
    expect(schedule.rows.slice(1).map((row) => row.amortization)).toEqual([
      50_000, 40_000, 30_000, 20_000, 10_000,
    ]);
    expect(schedule.rows.slice(1).map((row) => row.coupon)).toEqual([
      800_000, 640_000, 480_000, 320_000, 160_000,
    ]);
    expect(maturities(schedule, day('2025-06-30'))).toEqual([2e6, 2e6, 2e6, 2e6, 0, 0]);
    // Of 8,000,000 outstanding a quarter falls due; it carries a quarter of what is unamortized.
    const at = position(schedule, day('2025-06-30'));
    expect(at.current).toBe(2_000_000 - Math.round((8_000_000 - at.carrying) / 4));
  });
});

describe('issue costs in the effective rate', () => {
  // IFRS 9 Appendix A: transaction costs are part of the rate. A par bond with costs costs more than its coupon.
  it('make the rate higher than the coupon and are amortized apart', () => {
    const schedule = build('6', {
      price: priced('100'),
      issueCosts: { amount: 200_000, method: 'effective' },
    });
    expect(schedule.rates.ofPrice.toNumber()).toBeCloseTo(0.06, 12);
    expect(schedule.rates.effective.greaterThan('0.064')).toBe(true);
    expect(schedule.rows[0]?.closing).toBe(9_800_000);
    expect(schedule.rows.reduce((sum, row) => sum + row.costsAmortized, 0)).toBe(200_000);
    expect(position(schedule, day('2024-07-01'))).toMatchObject({ unamortizedDiscount: 0 });
  });
});

describe('redeemed early', () => {
  // Kieso, chapter 14 (figures from memory): the whole issue called at 101 with 14,400 of discount and 24,000 of costs
  // left of 800,000: 8,000 + 38,400 is the loss of 46,400. Here: costs straight-line beside a straight-line discount.
  it('at a call price: carrying amount less price is the loss', () => {
    const schedule = build('8', {
      face: 80_000_000,
      every: 'year',
      issued: day('2020-01-01'),
      matures: day('2040-01-01'),
      price: priced('97'),
      method: 'straight-line',
      issueCosts: { amount: 4_000_000, method: 'straight-line' },
      redemptions: [redeemed('2028-01-01', 80_000_000, '101')],
    });
    const last = schedule.rows.at(-1);
    // Twelve of twenty years left: 14,400 of the 24,000 discount and 24,000 of the 40,000 costs.
    expect([last?.retired, last?.paid, last?.gain]).toEqual([76_160_000, 80_800_000, -4_640_000]);
    expect(position(schedule, day('2028-01-01')).carrying).toBe(0);
    const [entry] = entries(schedule, day('2028-01-01'), day('2028-01-01'), 'none').slice(-1);
    expect(entry?.lines.find(({ account }) => account === 'redemption-gain-loss')?.debit).toBe(4_640_000);
  });

  // Common practice: half redeemed leaves half of everything, on the same effective rate.
  it('in part: the rest goes on as it would have', () => {
    const whole = build('8', { marketYield: percent('10') });
    const half = build('8', {
      marketYield: percent('10'),
      redemptions: [redeemed('2026-01-01', 5_000_000, '96')],
    });
    const [before, after] = [whole.rows.at(-1), half.rows.at(-1)];
    expect(after?.coupon).toBe((before?.coupon ?? 0) / 2);
    expect(Math.abs(2 * (after?.amortization ?? 0) - (before?.amortization ?? 0))).toBeLessThan(20);
  });

  it('changes nothing that was reported before it', () => {
    fc.assert(
      fc.property(arbitraryBondWithEvents, fc.double({ min: 0, max: 1, noNaN: true }), (terms, share) => {
        const first = terms.redemptions[0];
        fc.pre(first !== undefined && bondCanBeScheduled({ ...terms, redemptions: [] }));
        const [without, having] = [
          buildBondSchedule({ ...terms, redemptions: [] }),
          buildBondSchedule(terms),
        ];
        const on = terms.issued + Math.floor(share * ((first?.on ?? 0) - terms.issued));
        fc.pre(on < (first?.on ?? 0));
        expect({ ...position(having, on), next: 0 }).toEqual({ ...position(without, on), next: 0 });
        expect(interestExpense(having, terms.issued - 1, on)).toBe(
          interestExpense(without, terms.issued - 1, on),
        );
      }),
      { numRuns: 150 },
    );
  });
});

describe('price and yield both stated', () => {
  // The published 96.7500 and 5.94 % of one bond are each rounded (5.9356 %): the last row takes what that makes. A
  // yield that has nothing to do with the price is refused.
  it('leave the last row a difference that rounding explains', () => {
    const bond = {
      issued: day('2024-04-01'),
      matures: day('2034-04-01'),
      face: 300_000_000,
      price: priced('96.7500'),
    };
    const left = (market: string): ReturnType<typeof bondProofs>[number] | undefined =>
      bondProofs(build('5.5', { ...bond, marketYield: percent(market), yieldDecimals: 2 })).at(-1);
    expect(left('5.94')).toMatchObject({ holds: true });
    expect(left('5.94')?.difference).not.toBe(0);
    expect(() => left('9')).toThrow('do not belong together');
  });
});

describe('any bond', () => {
  const figures: readonly BondFigure[] = [
    'opening',
    'coupon',
    'received',
    'expense',
    'amortization',
    'costsAmortized',
    'retired',
    'paid',
    'gain',
    'unamortized',
    'closing',
  ];

  it('has proofs that hold, and figures that explain themselves', () => {
    fc.assert(
      fc.property(arbitraryBondWithEvents, (terms) => {
        const schedule = buildBondSchedule(terms);
        expect(bondProofs(schedule).filter((proof) => !proof.holds)).toEqual([]);
        schedule.rows.forEach((row, index) => {
          for (const figure of figures) {
            const how = explainBondFigure(schedule, index, figure);
            expect(how.amount, figure).toBe(row[figure]);
            expect(how.steps.length).toBeGreaterThan(0);
          }
        });
      }),
      { numRuns: 200 },
    );
  });

  it('expenses the same in all however the time is cut', () => {
    fc.assert(
      fc.property(
        arbitraryBondWithEvents,
        fc.array(fc.integer({ min: 0, max: 9000 }), { maxLength: 8 }),
        (terms, days) => {
          const schedule = buildBondSchedule(terms);
          const cuts = [0, ...days.sort((a, b) => a - b)]
            .map((after) => Math.min(terms.matures, terms.issued - 1 + after))
            .concat(terms.matures);
          const parts = cuts.slice(1).map((to, at) => interestExpense(schedule, cuts[at] as number, to));
          const all =
            balancesOf(entries(schedule, terms.issued, terms.matures, 'none')).get('interest-expense') ?? 0;
          expect(parts.reduce((sum, part) => sum + part, 0)).toBe(all);
          if (terms.rounding.interest !== 'none')
            expect(all).toBe(schedule.rows.reduce((sum, row) => sum + row.expense, 0));
        },
      ),
      { numRuns: 150 },
    );
  });
});

describe('unrounded books', () => {
  // Kieso, chapter 14: 100,000 at 8 % to yield 10 % brings 92,278.27 (92,278.2650708…), nothing rounded on the way.
  it('keep the balance exact and land on face', () => {
    const schedule = build('8', {
      marketYield: percent('10'),
      rounding: { interest: 'none', ties: 'away-from-zero' },
    });
    expect(schedule.proceeds).toBe(9_227_827);
    expect(schedule.rows[1]?.amortization).toBe(61_391);
    const left = bondProofs(schedule).at(-1);
    expect(left).toMatchObject({ holds: true, difference: 0 });
  });

  it('show carrying amount and discount that add up to the face, where the price makes half a cent', () => {
    const schedule = build('8', {
      face: 1_000_001,
      price: priced('50.0000'),
      rounding: { interest: 'none', ties: 'away-from-zero' },
    });
    expect(schedule.proceeds + (schedule.rows[0]?.unamortized ?? 0)).toBe(1_000_001);
    expect(
      schedule.rows.every(({ closing, unamortized, faceAfter }) => closing + unamortized === faceAfter),
    ).toBe(true);
  });
});

describe('bonds that cannot be', () => {
  it.each<[string, Partial<BondTerms>]>([
    ['not on a coupon date', { matures: day('2029-03-01') }],
    ['not after its issue', { matures: day('2023-01-01') }],
    ['after the issue on', { dated: day('2024-02-01') }],
    ['not on 2024-06-01', { issued: day('2024-02-01'), firstCoupon: day('2024-06-01') }],
    ['must come after', { firstCoupon: day('2023-07-01') }],
    ['must lie between', { lastCoupon: day('2030-01-01') }],
    ['100000.00 of face is outstanding', { redemptions: [redeemed('2026-01-01', 10_000_001, '100')] }],
    ['falls after the issue', { redemptions: [redeemed('2024-01-01', 100, '100')] }],
    ['and before', { redemptions: [redeemed('2029-01-01', 100, '100')] }],
    ['on a coupon date after the issue', { instalments: [{ on: day('2025-02-01'), face: 100, at: 0 }] }],
    ['left to fall due at maturity', { instalments: [{ on: day('2025-01-01'), face: 10_000_000, at: 0 }] }],
    ['short of the face', { instalments: [{ on: day('2029-01-01'), face: 100, at: 0 }] }],
    ['make both straight-line', { method: 'straight-line', issueCosts: { amount: 5, method: 'effective' } }],
    ['leave nothing of the proceeds', { issueCosts: { amount: 20_000_000, method: 'effective' } }],
  ])('are refused: %s', (message, more) => {
    expect(() => buildBondSchedule(plainBond('8', { marketYield: percent('5'), ...more }))).toThrow(message);
  });

  it('have no second redemption once nothing is left', () => {
    const all = redeemed('2026-01-01', 10_000_000, '100');
    const again = { ...redeemed('2027-01-01', 1, '100'), at: 1 };
    expect(() =>
      build('8', { price: { ofFace: ratio(1n), decimals: 0 }, redemptions: [all, again] }),
    ).toThrow('0.00 of face is outstanding');
  });
});

describe('both methods', () => {
  // Kieso, chapter 14, discount bond: 4,614 by effective interest in the first half-year, 4,772.20 straight-line.
  it('are compared row by row', () => {
    const schedule = build('8', { marketYield: percent('10'), rounding: { interest: 'unit', ties: 'even' } });
    const { rows, farthest, farthestCarrying } = compareMethods(schedule);
    expect(rows[0]).toMatchObject({ effective: 461_400, straightLine: 477_200, difference: 15_800 });
    expect(farthest?.n).toBe(10);
    expect(rows.reduce((sum, row) => sum + row.difference, 0)).toBe(0);
    expect(farthestCarrying).toBeGreaterThan(0);
    expect(rows.at(-1)?.carryingDifference).toBe(0);
  });
});

describe('a redemption tried', () => {
  it('says what it costs, and is what recording it makes', () => {
    const before = build('8', { marketYield: percent('10') });
    const { at: _, ...half } = redeemed('2026-03-01', 5_000_000, '99');
    const tried = redemptionOutcome(before, half);
    expect(tried.cash).toBe(4_950_000 + 66_667);
    expect(tried.row.gain).toBe(tried.row.retired - 4_950_000);
    expect(tried.schedule.rows).toEqual(
      build('8', { marketYield: percent('10'), redemptions: [redeemed('2026-03-01', 5_000_000, '99')] }).rows,
    );
    // Six coupons of 200,000 are halved, less the two months of the sixth paid with the redemption.
    expect(tried.couponsSpared).toBe(6 * 200_000 - 66_667);
  });
});
