import type { Decimal } from 'decimal.js';
import { Precise } from './precise.ts';
import type { Ratio } from './ratio.ts';
import { roundRatio, type Ties } from './round-ratio.ts';

/**
 * Numbers with 60 decimals as whole numbers: what is solved or grows and is rounded to minor units in the end. Sums
 * and products of them are many times quicker than those of decimals.
 */
export type Fixed = bigint;

const places = 60;
export const fixedOne: Fixed = 10n ** BigInt(places);

/** A whole number. */
export function fixedOf(whole: number): Fixed {
  return BigInt(whole) * fixedOne;
}

/** The nearest to a ratio. */
export function fixedRatio({ num, den }: Ratio): Fixed {
  return roundRatio({ num: num * fixedOne, den }, 'away-from-zero');
}

/** The nearest to a decimal. */
export function fixedDecimal(value: Decimal): Fixed {
  return BigInt(value.times(new Precise(10).pow(places)).toFixed(0));
}

/** A product. */
export function fixedProduct(a: Fixed, b: Fixed): Fixed {
  return (a * b) / fixedOne;
}

/** A quotient; the divisor is not zero. */
export function fixedQuotient(a: Fixed, b: Fixed): Fixed {
  return (a * fixedOne) / b;
}

/** Squarings that bring an exponent close to zero, where its series is short. */
const halvings = 20n;

/** e to a power, good to 50 decimals: the series of a small part of the exponent, squared up again. */
export function fixedExp(exponent: Fixed): Fixed {
  const part = exponent / 2n ** halvings;
  let sum = fixedOne;
  let term = fixedOne;
  for (let at = 1n; term !== 0n; at += 1n) {
    term = fixedProduct(term, part) / at;
    sum += term;
  }
  for (let step = 0n; step < halvings; step += 1n) sum = fixedProduct(sum, sum);
  return sum;
}

/** Rounded to a whole number. */
export function roundFixed(value: Fixed, ties: Ties): number {
  return Number(roundRatio({ num: value, den: fixedOne }, ties));
}

/** As a decimal with so many significant digits. */
export function fixedText(value: Fixed, digits: number): string {
  return new Precise(value.toString()).div(fixedOne.toString()).toSignificantDigits(digits).toFixed();
}
