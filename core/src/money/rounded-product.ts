import { BeyondExact } from '../faults/beyond-exact.ts';
import { ratioToNumber, type Ratio } from './ratio.ts';
import { roundRatio, type Ties } from './round-ratio.ts';

/**
 * A multiplier prepared once and applied to many amounts. `fast` says that numerator and denominator are
 * small enough for {@link fastRoundedProduct}; `amountLimit` is the largest amount that path may be given.
 * `estimate` is the ratio as a double, good to one part in 2^45; the exact ratio is worked out when it is asked for.
 */
export interface Multiplier {
  readonly num: number;
  readonly den: number;
  readonly estimate: number;
  readonly exact: () => Ratio;
  readonly fast: boolean;
  readonly amountLimit: number;
}

const largestDenominator = 2 ** 29;
const largestNumerator = 2 ** 40;

/**
 * Prepares an exact ratio (not negative) for repeated multiplication.
 *
 * @example
 * roundedProduct(100_000, multiplier(ratio(1n, 100n)), 'away-from-zero') // 1_000
 */
export function multiplier(exact: Ratio): Multiplier {
  const num = Number(exact.num);
  const den = Number(exact.den);
  // The product's double estimate must be within one of the true quotient: kept below 2^49 it is.
  const amountLimit = num === 0 ? 2 ** 52 : Math.min(2 ** 52, Math.floor((2 ** 49 * den) / num));
  const fast = exact.num >= 0n && num <= largestNumerator && den <= largestDenominator;
  return { num, den, estimate: ratioToNumber(exact), exact: () => exact, fast, amountLimit };
}

/** The same where the exact ratio is dear to come by and a good estimate is not. */
export function estimatedMultiplier(estimate: number, exact: () => Ratio): Multiplier {
  return { num: 0, den: 1, estimate, exact, fast: false, amountLimit: 0 };
}

/**
 * `amount × num / den` to the nearest integer, halves up, for integers in the range a {@link Multiplier}
 * vouches for.
 *
 * The double estimate `q` is within one of the true quotient. The remainder `amount·num − q·den` is then
 * smaller than 2^31 in size, so computing it modulo 2^32 gives it exactly, and it says which neighbour is right.
 */
export function fastRoundedProduct(amount: number, num: number, den: number): number {
  const q = Math.floor((amount * num) / den + 0.5);
  const twiceRemainder = 2 * ((Math.imul(amount, num) - Math.imul(q, den)) | 0);
  if (twiceRemainder >= den) return q + 1;
  if (twiceRemainder < -den) return q - 1;
  return q;
}

/**
 * An amount in minor units times a multiplier, rounded once to a whole minor unit.
 * Plain numbers where they settle it, big integers everywhere else; the two agree on every input.
 * Throws {@link BeyondExact} when the result is not a safe integer.
 *
 * @example
 * roundedProduct(250, multiplier(ratio(1n, 100n)), 'even') // 2
 */
export function roundedProduct(amount: number, by: Multiplier, ties: Ties): number {
  if (ties === 'away-from-zero' && by.fast && amount >= 0 && amount <= by.amountLimit) {
    return fastRoundedProduct(amount, by.num, by.den);
  }
  const product = amount * by.estimate;
  // Where the estimate is clear of a half by far more than its error, it settles the matter.
  if (product >= 0 && product < 2 ** 44) {
    const nearest = Math.floor(product + 0.5);
    if (Math.abs(product + 0.5 - Math.round(product + 0.5)) > product * 2 ** -44 + 2 ** -40) return nearest;
  }
  const exact = by.exact();
  return safeNumber(roundRatio({ num: BigInt(amount) * exact.num, den: exact.den }, ties));
}

/** A big integer as a number. Throws {@link BeyondExact} beyond ±(2^53 − 1), where a number would lose units. */
export function safeNumber(value: bigint): number {
  const number = Number(value);
  if (!Number.isSafeInteger(number)) {
    throw new BeyondExact();
  }
  return number;
}
