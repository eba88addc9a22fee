import { describe, expect, it } from 'vitest';
import { ratio } from '../../money/ratio.ts';
import { evenGrowths, levelPayment, levelPaymentExact, type Growths } from './level-payment.ts';

const growths = (percent: number, count: number): Growths => {
  return evenGrowths(count, ratio(BigInt(percent), 100n));
};

describe('the level payment', () => {
  // Present value of an annuity of 1: standard compound-interest tables, as in Kieso, Weygandt and Warfield,
  // Intermediate Accounting, chapter 6. Figures from memory, reproduced by computation.
  it.each([
    [1, 12, 11.25508],
    [1, 24, 21.24339],
    [1, 60, 44.95504],
    [2, 10, 8.98259],
    [3, 20, 14.87747],
    [4, 10, 8.1109],
    [5, 6, 5.07569],
    [5, 20, 12.46221],
    [6, 10, 7.36009],
    [7, 6, 4.76654],
    [8, 5, 3.99271],
    [8, 20, 9.81815],
    [9, 5, 3.88965],
    [10, 10, 6.14457],
    [11, 5, 3.6959],
    [12, 3, 2.40183],
  ])('at %d %% over %d is one over the annuity factor %d', (percent, count, factor) => {
    const payment = levelPaymentExact(1, growths(percent, count));
    expect(payment.pow(-1).toDecimalPlaces(5).toNumber()).toBe(factor);
  });

  const nearest = { step: 1, how: 'away-from-zero' } as const;
  const upward = { step: 1, how: 'upward' } as const;

  it('of 0 % shares the balance evenly, up to the cent where that is agreed', () => {
    expect(levelPayment(1_000, growths(0, 3), nearest)).toBe(333);
    expect(levelPayment(1_000, growths(0, 3), upward)).toBe(334);
    expect(levelPayment(999, growths(0, 3), upward)).toBe(333);
    // Exactly half a cent: 1,001 over 2 is 500.5.
    expect(levelPayment(1_001, growths(0, 2), nearest)).toBe(501);
    // Half to even (IEEE 754, section 4.3.1): 12.5 cents are 12, 13.5 are 14.
    const even = { ...nearest, how: 'even' } as const;
    expect([25, 27].map((cents) => levelPayment(cents, growths(0, 2), even))).toEqual([12, 14]);
  });
});
