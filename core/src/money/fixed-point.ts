import type { Decimal } from 'decimal.js';
import { Precise } from './precise.ts';
import type { Ratio } from './ratio.ts';
import { roundRatio, type Ties } from './round-ratio.ts';

/**
 * Numbers with 200 binary places (sixty decimals) as whole numbers: what is solved or grows and is rounded to minor
 * units in the end. Halves are exact, and sums and products are many times quicker than those of decimals.
 */
export type Fixed = bigint;

const places = 200n;
export const fixedOne: Fixed = 1n << places;
const decimalOne = new Precise(fixedOne.toString());

/** A whole number. */
export function fixedOf(whole: number): Fixed {
  return BigInt(whole) << places;
}

/** The nearest to a ratio, within the last place. */
export function fixedRatio({ num, den }: Ratio): Fixed {
  return den === 1n ? num << places : (num << places) / den;
}

/** The nearest to a decimal. */
export function fixedDecimal(value: Decimal): Fixed {
  return BigInt(value.times(decimalOne).toFixed(0));
}

/** A product. */
export function fixedProduct(a: Fixed, b: Fixed): Fixed {
  return (a * b) >> places;
}

/** A quotient; the divisor is not zero. */
export function fixedQuotient(a: Fixed, b: Fixed): Fixed {
  return (a << places) / b;
}

/** Squarings that bring an exponent close to zero, where its series is short. */
const halvings = 20n;

/** e to a power, good to 50 decimals: the series of a small part of the exponent, squared up again. */
export function fixedExp(exponent: Fixed): Fixed {
  const part = exponent >> halvings;
  let sum = fixedOne;
  let term = fixedOne;
  for (let at = 1n; term !== 0n && term !== -1n; at += 1n) {
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
  return new Precise(value.toString()).div(decimalOne).toSignificantDigits(digits).toFixed();
}
