import type { Ratio } from './ratio.ts';

/** What a half does: to the neighbour farther from zero, or to the even neighbour (IEEE 754 names). */
export type Ties = 'away-from-zero' | 'even';

/**
 * The integer nearest to a ratio; an exact half goes as `ties` says. Exact for any size.
 *
 * @example
 * roundRatio(ratio(5n, 2n), 'even') // 2n
 */
export function roundRatio(value: Ratio, ties: Ties): bigint {
  const negative = value.num < 0n;
  const magnitude = negative ? -value.num : value.num;
  const quotient = magnitude / value.den;
  const twiceRemainder = 2n * (magnitude - quotient * value.den);
  const up =
    twiceRemainder > value.den ||
    (twiceRemainder === value.den && (ties === 'away-from-zero' || quotient % 2n === 1n));
  const rounded = up ? quotient + 1n : quotient;
  return negative ? -rounded : rounded;
}
