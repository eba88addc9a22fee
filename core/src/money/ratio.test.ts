import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  addRatios,
  compareRatios,
  multiplyRatios,
  ratio,
  ratioFromDecimal,
  ratioToDecimal,
  ratioToNumber,
} from './ratio.ts';

const wide = 2n ** 600n;
const whole = fc.oneof(fc.bigInt({ min: -1000n, max: 1000n }), fc.bigInt({ min: -wide, max: wide }));
const denominator = fc.oneof(fc.bigInt({ min: 1n, max: 1000n }), fc.bigInt({ min: 1n, max: wide }));
const ratios = fc.tuple(whole, denominator).map(([num, den]) => ratio(num, den));

// What a fraction is, a/b = c/d where ad = bc: Euclid, Elements VII, proposition 19.
describe('a ratio', () => {
  it('is in lowest terms with a positive denominator, and refuses none', () => {
    fc.assert(
      fc.property(whole, denominator, (num, den) => {
        const made = ratio(num, -den);
        expect(made.num * den).toBe(-num * made.den);
        expect(made.den > 0n).toBe(true);
        expect(ratio(made.num * 6n, made.den * 6n)).toEqual(made);
      }),
    );
    expect(ratio(4n, -6n)).toEqual({ num: -2n, den: 3n });
    expect(ratio(0n, 7n)).toEqual({ num: 0n, den: 1n });
    expect(ratio(5n)).toEqual({ num: 5n, den: 1n });
    expect(() => ratio(1n, 0n)).toThrow(RangeError);
  });

  it('is added, multiplied and compared as fractions are, however long they get', () => {
    fc.assert(
      fc.property(ratios, ratios, (a, b) => {
        const sum = addRatios(a, b);
        expect(sum.num * a.den * b.den).toBe((a.num * b.den + b.num * a.den) * sum.den);
        const product = multiplyRatios(a, b);
        expect(product.num * a.den * b.den).toBe(a.num * b.num * product.den);
        const less = a.num * b.den < b.num * a.den;
        const more = a.num * b.den > b.num * a.den;
        expect(compareRatios(a, b)).toBe(less ? -1 : more ? 1 : 0);
      }),
    );
  });

  it('grows no longer than what it says where it is summed up for long', () => {
    let sum = ratio(0n);
    for (let at = 0; at < 400; at += 1)
      sum = addRatios(sum, { num: 7n, den: 60n ** 40n * (at % 2 === 0 ? 1n : 7n) });
    expect(sum.den <= 60n ** 40n * 7n * 2n ** 512n).toBe(true);
    const one = ratio(10n ** 60n, 10n ** 60n + 1n);
    let power = one;
    for (let at = 0; at < 9; at += 1) power = multiplyRatios(power, { num: one.den, den: one.num });
    expect(compareRatios(power, ratio((10n ** 60n + 1n) ** 8n, 10n ** 480n))).toBe(0);
  });

  it('is the nearest number, also where its parts are beyond what a number holds', () => {
    expect(ratioToNumber(ratio(1n, 3n))).toBe(1 / 3);
    expect(ratioToNumber({ num: 10n ** 400n, den: 4n * 10n ** 400n })).toBe(0.25);
    expect(ratioToNumber({ num: -(10n ** 400n), den: 10n ** 398n })).toBe(-100);
  });

  it('is read from a plain decimal and from nothing else', () => {
    expect(ratioFromDecimal('0.125')).toEqual({ num: 1n, den: 8n });
    expect(ratioFromDecimal('-12.50')).toEqual({ num: -25n, den: 2n });
    expect(ratioFromDecimal('7')).toEqual({ num: 7n, den: 1n });
    for (const text of ['', '.5', '5.', '1e3', '+1', ' 1', '1 ', '--1', '1,000', 'x1.0', '1.0x']) {
      expect(() => ratioFromDecimal(text), text).toThrow(SyntaxError);
    }
  });

  it('is written with the decimals it has, or cut where it has more', () => {
    const cases: [bigint, bigint, number, string][] = [
      [1n, 8n, 3, '0.125'],
      [1n, 8n, 2, '0.12…'],
      [-1n, 8n, 2, '-0.12…'],
      [5n, 1n, 4, '5'],
      [-5n, 2n, 4, '-2.5'],
      [100n, 1n, 0, '100'],
      [7n, 3n, 0, '2…'],
      [1n, 1000n, 2, '0.00…'],
      [0n, 1n, 2, '0'],
    ];
    for (const [num, den, places, text] of cases) expect(ratioToDecimal({ num, den }, places)).toBe(text);
  });
});
