import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatAmount, parseAmount } from './amount-text.ts';
import { currencyDigits } from './currency.ts';
import { ratio, ratioFromDecimal, ratioToDecimal } from './ratio.ts';
import { roundRatio } from './round-ratio.ts';
import { fastRoundedProduct, multiplier, roundedProduct } from './rounded-product.ts';

const rates = fc.tuple(
  fc.integer({ min: 1, max: 40_000 }),
  fc.constantFrom(120_000, 360_000, 365_000, 52_000, 7),
);

describe('rounding', () => {
  // IEEE 754-2019 section 4.3.1 and 4.3.3: roundTiesToAway, roundTiesToEven.
  it('sends halves away from zero or to even', () => {
    const half = (value: bigint): [bigint, bigint] => [
      roundRatio(ratio(value, 2n), 'away-from-zero'),
      roundRatio(ratio(value, 2n), 'even'),
    ];
    expect([half(1n), half(3n), half(5n), half(-1n), half(-3n)]).toEqual([
      [1n, 0n],
      [2n, 2n],
      [3n, 2n],
      [-1n, 0n],
      [-2n, -2n],
    ]);
  });

  it('in plain numbers is what big integers give, in range and out of it', () => {
    const amounts = fc.oneof(fc.integer({ min: 0, max: 2 ** 31 }), fc.maxSafeInteger().map(Math.abs));
    fc.assert(
      fc.property(amounts, rates, (amount, [num, den]) => {
        const by = multiplier(ratio(BigInt(num), BigInt(den)));
        const exact = roundRatio(ratio(BigInt(amount) * BigInt(num), BigInt(den)), 'away-from-zero');
        fc.pre(exact <= BigInt(Number.MAX_SAFE_INTEGER));
        expect(BigInt(roundedProduct(amount, by, 'away-from-zero'))).toBe(exact);
      }),
      { numRuns: 20_000 },
    );
  });

  it('in plain numbers settles exact halves upward', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 2 ** 40 }),
        fc.integer({ min: 2, max: 2 ** 27 }),
        (whole, halfDen) => {
          // amount × (2·halfDen·k + halfDen) / (2·halfDen) is a half for any odd amount.
          const [num, den] = [halfDen, 2 * halfDen];
          const amount = 2 * whole + 1;
          fc.pre(amount <= multiplier({ num: BigInt(num), den: BigInt(den) }).amountLimit);
          expect(fastRoundedProduct(amount, num, den)).toBe(whole + 1);
        },
      ),
      { numRuns: 20_000 },
    );
  });

  // The cases measured to go wrong in doubles: 5.25 % a month, where balance × (rate/12) misses halves.
  it('is right where doubles are not', () => {
    const monthly = multiplier(ratio(525n, 120_000n));
    let missed = 0;
    let wrong = 0;
    for (let balance = 1; balance < 200_000; balance += 1) {
      const exact = (BigInt(balance) * 525n * 2n + 120_000n) / 240_000n;
      if (roundedProduct(balance, monthly, 'away-from-zero') !== Number(exact)) wrong += 1;
      if (Math.round(balance * (0.0525 / 12)) !== Number(exact)) missed += 1;
    }
    expect(wrong).toBe(0);
    expect(missed).toBeGreaterThan(0);
  });
});

describe('amounts as text', () => {
  it('come back as they were, in a currency of any number of decimals', () => {
    fc.assert(
      fc.property(fc.maxSafeInteger(), fc.constantFrom(0, 2, 3, 4), (minor, digits) => {
        expect(parseAmount(formatAmount(minor, digits), digits)).toBe(minor);
      }),
    );
    expect([0, 5, -5, 123_456, -100].map((minor) => formatAmount(minor, 2))).toEqual([
      '0.00',
      '0.05',
      '-0.05',
      '1234.56',
      '-1.00',
    ]);
    expect(formatAmount(-7, 0)).toBe('-7');
    // There is one zero.
    expect(Object.is(parseAmount('-0.00', 2), 0)).toBe(true);
    expect(parseAmount('1.005', 2)).toBeUndefined();
    expect(parseAmount('1e5', 2)).toBeUndefined();
    expect(parseAmount('99999999999999999999', 2)).toBeUndefined();
  });

  // ISO 4217 list one.
  it('know a currency by its code', () => {
    expect(['EUR', 'JPY', 'KWD', 'CLF', 'XYZ', 'eur'].map(currencyDigits)).toEqual([
      2,
      0,
      3,
      4,
      undefined,
      undefined,
    ]);
  });

  it('show the unrounded value cut, not rounded', () => {
    expect(ratioToDecimal(ratio(2n, 3n), 4)).toBe('0.6666…');
    expect(ratioToDecimal(ratioFromDecimal('-6.125'), 4)).toBe('-6.125');
  });
});
