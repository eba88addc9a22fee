import { multiplier, ratio, roundedProduct, roundRatio, type Ties } from '@coffer/core';
import { seeded } from './portfolio.ts';

/** What a million random rows of interest came to. */
export interface Exactness {
  readonly rows: number;
  readonly halves: number;
  readonly wrong: number;
}

/**
 * Interest of random rows against an exact rational computation: balances up to a hundred thousand million in cents,
 * rates over 360, 365 and 12 a year, both ways of rounding a half, and one row in five an exact half cent.
 */
export function exactness(rows: number): Exactness {
  const random = seeded(19_690_420);
  const upTo = (most: number): number => Math.floor(random() * most);
  let halves = 0;
  let wrong = 0;
  for (let row = 0; row < rows; row += 1) {
    const ties: Ties = row % 2 === 0 ? 'away-from-zero' : 'even';
    const per = [12, 360, 365][row % 3] as number;
    const growth = ratio(BigInt(1 + upTo(2000)) * BigInt(1 + upTo(31)), 10_000n * BigInt(per));
    // A balance that is an odd multiple of half the denominator ends on a half, where the numerator is odd too.
    const half = row % 5 === 0 && growth.den % 2n === 0n;
    const balance = half ? (2 * upTo(40_000) + 1) * (Number(growth.den) / 2) : upTo(10 ** 13);
    const exact = ratio(BigInt(balance) * growth.num, growth.den);
    if (exact.den === 2n) halves += 1;
    if (BigInt(roundedProduct(balance, multiplier(growth), ties)) !== roundRatio(exact, ties)) wrong += 1;
  }
  return { rows, halves, wrong };
}
