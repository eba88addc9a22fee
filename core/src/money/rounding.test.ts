import { Decimal } from 'decimal.js';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { BeyondExact } from '../faults/beyond-exact.ts';
import { fineGrains, minorOfGrains } from './grains.ts';
import { ratio } from './ratio.ts';
import { roundedDecimal } from './rounded-decimal.ts';
import { estimatedMultiplier, multiplier, roundedProduct, safeNumber } from './rounded-product.ts';
import { roundRatio, type Ties } from './round-ratio.ts';
import {
  grainsOf,
  interestStep,
  minorOf,
  partOf,
  paymentRounding,
  roundedPayment,
  toGrains,
  toMinor,
  type Rounded,
} from './rounding.ts';

const terms = (rounding: Partial<Rounded['rounding']>, digits = 2): Rounded => ({
  digits,
  rounding: { interest: 'cent', payment: 'cent', ties: 'away-from-zero', ...rounding },
});

/** Rounding as another library does it; names of the modes by IEEE 754-2019, section 4.3. */
const modes: Readonly<Record<Ties, Decimal.Rounding>> = {
  'away-from-zero': Decimal.ROUND_HALF_UP,
  even: Decimal.ROUND_HALF_EVEN,
};
const Exact = Decimal.clone({ precision: 120, toExpNeg: -200, toExpPos: 200 });
const ties = fc.constantFrom<Ties>('away-from-zero', 'even');

describe('a rounded product', () => {
  it('is what decimals of a library give, for amounts of either sign, ties of either kind, halves among them', () => {
    const halves = fc.integer({ min: -100_000, max: 100_000 }).map((at) => [2 * at + 1, 1n, 2n] as const);
    const any = fc.tuple(
      fc.integer({ min: -(2 ** 40), max: 2 ** 40 }),
      fc.bigInt({ min: -(2n ** 12n), max: 2n ** 12n }),
      fc.bigInt({ min: 1n, max: 2n ** 22n }),
    );
    fc.assert(
      fc.property(fc.oneof(halves, any), ties, ([amount, num, den], how) => {
        const exact = ratio(num, den);
        const expected = new Exact(amount)
          .times(exact.num.toString())
          .div(exact.den.toString())
          .toDecimalPlaces(0, modes[how])
          .toNumber();
        expect(roundedProduct(amount, multiplier(exact), how) + 0).toBe(expected + 0);
        const near = Number(exact.num) / Number(exact.den);
        expect(
          roundedProduct(
            amount,
            estimatedMultiplier(near, () => exact),
            how,
          ) + 0,
        ).toBe(expected + 0);
      }),
      { numRuns: 5000 },
    );
  });

  it('is exact to the largest amount that it takes the quick way for, and beyond', () => {
    for (const den of [7n, 365_000n, 2n ** 29n - 1n]) {
      const by = multiplier(ratio(2n ** 29n + 3n, den));
      for (const amount of [by.amountLimit - 1, by.amountLimit, by.amountLimit + 1]) {
        const exact = roundRatio(ratio(BigInt(amount) * (2n ** 29n + 3n), den), 'away-from-zero');
        expect(BigInt(roundedProduct(amount, by, 'away-from-zero'))).toBe(exact);
      }
    }
    expect(roundedProduct(123, multiplier(ratio(0n)), 'even')).toBe(0);
  });

  it('sends each half where the ties say, whichever way it is worked out', () => {
    const half = ratio(1n, 2n);
    const all = (how: Ties): number[] =>
      [1, 3, 5, 2 ** 31 + 1, 2 ** 40 + 3].map((amount) => roundedProduct(amount, multiplier(half), how));
    expect(all('even')).toEqual([0, 2, 2, 2 ** 30, 2 ** 39 + 2]);
    expect(all('away-from-zero')).toEqual([1, 2, 3, 2 ** 30 + 1, 2 ** 39 + 2]);
    const estimated = estimatedMultiplier(0.5, () => half);
    expect([1, 3, 5].map((amount) => roundedProduct(amount, estimated, 'even'))).toEqual([0, 2, 2]);
    expect([-1, -3, -5].map((amount) => roundedProduct(amount, estimated, 'even') + 0)).toEqual([0, -2, -2]);
  });

  /** The number that times another is one, modulo a third; none where the two share a factor. */
  const inverse = (of: bigint, modulo: bigint): bigint | undefined => {
    let [before, at] = [modulo, of % modulo];
    let [times, next] = [0n, 1n];
    while (at > 0n) {
      const whole = before / at;
      [before, at] = [at, before - whole * at];
      [times, next] = [next, times - whole * next];
    }
    return before === 1n ? ((times % modulo) + modulo) % modulo : undefined;
  };

  it('is right where what it rounds is as near to a half as its parts let it be', () => {
    const cases = fc.record({
      den: fc.oneof(
        fc.bigInt({ min: 3n, max: 2n ** 29n + 5n }),
        fc.bigInt({ min: 2n ** 40n, max: 2n ** 56n }),
      ),
      amount: fc.oneof(
        fc.integer({ min: 1, max: 999 }),
        fc.integer({ min: 1, max: 2 ** 34 }),
        fc.integer({ min: 2 ** 43, max: 2 ** 46 }),
      ),
      off: fc.bigInt({ min: -1n, max: 1n }),
      wholes: fc.oneof(fc.bigInt({ min: 0n, max: 40n }), fc.bigInt({ min: 2n ** 26n, max: 2n ** 33n })),
    });
    fc.assert(
      fc.property(cases, ties, ({ den, amount, off, wholes }, how) => {
        const turned = inverse(BigInt(amount), den);
        fc.pre(turned !== undefined);
        const num = (((den / 2n + off) * (turned ?? 0n)) % den) + wholes * den;
        const twice = 2n * BigInt(amount) * num;
        const exact = (twice + den) / (2n * den);
        const isHalf = twice % (2n * den) === den;
        fc.pre(exact <= BigInt(Number.MAX_SAFE_INTEGER));
        const expected = isHalf && how === 'even' && exact % 2n === 1n ? exact - 1n : exact;
        const by = multiplier({ num, den });
        expect(BigInt(roundedProduct(amount, by, how))).toBe(expected);
        const estimated = estimatedMultiplier(by.estimate, by.exact);
        expect(BigInt(roundedProduct(amount, estimated, how))).toBe(expected);
      }),
      { numRuns: 5000 },
    );
  });

  it('takes the quick way for no multiplier that plain numbers cannot hold', () => {
    const cases = fc.record({
      amount: fc.integer({ min: 0, max: 2 ** 31 }),
      num: fc.oneof(fc.bigInt({ min: 1n, max: 2n ** 22n }), fc.bigInt({ min: 2n ** 40n, max: 2n ** 60n })),
      den: fc.bigInt({ min: 2n ** 29n, max: 2n ** 60n }),
    });
    fc.assert(
      fc.property(cases, ({ amount, num, den }) => {
        const exact = roundRatio({ num: BigInt(amount) * num, den }, 'away-from-zero');
        fc.pre(exact <= BigInt(Number.MAX_SAFE_INTEGER));
        expect(BigInt(roundedProduct(amount, multiplier({ num, den }), 'away-from-zero'))).toBe(exact);
      }),
      { numRuns: 2000 },
    );
    // Halves of such denominators: 2 × 3 × 2³⁰ of them are an odd number of halves.
    const den = 3n * 2n ** 31n;
    expect(roundedProduct(3 * 2 ** 30, multiplier({ num: 5n, den }), 'away-from-zero')).toBe(3);
    expect(roundedProduct(3 * 2 ** 30, multiplier({ num: 1n, den }), 'away-from-zero')).toBe(1);
  });

  it('is no number where one would lose units', () => {
    expect(safeNumber(2n ** 53n - 1n)).toBe(Number.MAX_SAFE_INTEGER);
    expect(safeNumber(-(2n ** 53n - 1n))).toBe(Number.MIN_SAFE_INTEGER);
    expect(() => safeNumber(2n ** 53n)).toThrow(BeyondExact);
    expect(() => safeNumber(-(2n ** 53n))).toThrow(BeyondExact);
    expect(() => roundedProduct(Number.MAX_SAFE_INTEGER, multiplier(ratio(2n)), 'even')).toThrow(BeyondExact);
  });
});

describe('what terms round to', () => {
  it('is the cent, the whole unit, or nothing, for interest', () => {
    expect(toMinor(terms({}), ratio(12_345n, 10n))).toBe(1235);
    expect(toMinor(terms({ ties: 'even' }), ratio(12_345n, 10n))).toBe(1234);
    expect(toMinor(terms({ interest: 'unit' }), ratio(1249n))).toBe(1200);
    expect(toMinor(terms({ interest: 'unit' }), ratio(1250n))).toBe(1300);
    expect(toMinor(terms({ interest: 'unit', ties: 'even' }), ratio(1250n))).toBe(1200);
    // A currency without a minor unit has no other unit.
    expect(interestStep(terms({ interest: 'unit' }, 0))).toBe(1);
    expect(interestStep(terms({ interest: 'unit' }, 3))).toBe(1000);
    expect(toGrains(terms({ interest: 'none' }), ratio(1n, 2n))).toBe(fineGrains / 2n);
  });

  it('keeps fine grains as soon as anything is not rounded', () => {
    expect(grainsOf(terms({}))).toBe(1n);
    expect(grainsOf(terms({ interest: 'unit', payment: 'cent-up' }))).toBe(1n);
    expect(grainsOf(terms({ interest: 'none' }))).toBe(fineGrains);
    expect(grainsOf(terms({ payment: 'none' }))).toBe(fineGrains);
    expect(grainsOf(terms({ deposit: 'none' }))).toBe(fineGrains);
  });

  it('shows an amount in fine grains rounded, a half that division could not write out among them', () => {
    // A half less one of the thirty digits is what 1/6 × 3 comes to.
    const nearlyHalf = 3n * (fineGrains / 6n);
    expect(nearlyHalf).toBeLessThan(fineGrains / 2n);
    expect(minorOfGrains(nearlyHalf, fineGrains, 'away-from-zero')).toBe(1);
    expect(minorOfGrains(fineGrains / 2n - 10n ** 13n, fineGrains, 'away-from-zero')).toBe(0);
    expect(minorOfGrains(-nearlyHalf, fineGrains, 'away-from-zero')).toBe(-1);
    expect(minorOfGrains(5n, 1n, 'even')).toBe(5);
    expect(minorOf(terms({ interest: 'none', ties: 'even' }), fineGrains / 2n)).toBe(0);
    expect(() => minorOf(terms({}), 2n ** 60n)).toThrow(BeyondExact);
    expect(partOf(terms({}), 101n, ratio(1n, 2n))).toBe(51n);
    expect(partOf(terms({ ties: 'even' }), 101n, ratio(1n, 2n))).toBe(50n);
  });

  it('is for payments the cent, the cent above, or the whole unit', () => {
    const paid = (
      rounding: Partial<Rounded['rounding']>,
      exact: string,
      of: 'payment' | 'deposit' = 'payment',
    ): number => roundedPayment(paymentRounding(terms(rounding), of), new Decimal(exact));
    expect(paid({}, '1234.5')).toBe(1235);
    expect(paid({ ties: 'even' }, '1234.5')).toBe(1234);
    expect(paid({ payment: 'cent-up' }, '1234.0000001')).toBe(1235);
    expect(paid({ payment: 'cent-up' }, '1234')).toBe(1234);
    expect(paid({ payment: 'unit' }, '1250')).toBe(1300);
    expect(paid({ payment: 'unit' }, '1249.99')).toBe(1200);
    expect(paid({ payment: 'unit', deposit: 'cent-up' }, '1234.2', 'deposit')).toBe(1235);
    // What division could not write out is no reason to go up a cent.
    expect(roundedDecimal(new Decimal(`7.${'0'.repeat(45)}1`), 'upward').toNumber()).toBe(7);
    expect(roundedDecimal(new Decimal(`7.${'0'.repeat(35)}1`), 'upward').toNumber()).toBe(8);
  });
});
