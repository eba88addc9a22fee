import { fineGrains, minorOfGrains } from '../money/grains.ts';
import { multiplyRatios, ratio, type Ratio } from '../money/ratio.ts';
import { roundRatio } from '../money/round-ratio.ts';
import { safeNumber } from '../money/rounded-product.ts';
import type { BondTerms } from './bond-terms.ts';

type Rounded = Pick<BondTerms, 'rounding' | 'digits'>;

/** Grains per minor unit in this bond's schedule. */
export function bondGrains({ rounding }: Rounded): bigint {
  return rounding.interest === 'none' ? fineGrains : 1n;
}

/** How many minor units amounts are rounded to. */
export function bondStep({ rounding, digits }: Rounded): number {
  return rounding.interest === 'unit' ? 10 ** digits : 1;
}

/** An exact amount of minor units in grains, rounded once as the terms say. */
export function roundToGrains(terms: Rounded, exact: Ratio): bigint {
  const grains = bondGrains(terms);
  const step = BigInt(bondStep(terms));
  const scaled = multiplyRatios(exact, ratio(grains, step));
  return roundRatio(scaled, terms.rounding.ties) * step;
}

/** Part of an amount of grains, rounded once as the terms say. */
export function partOfGrains(terms: Rounded, amount: bigint, part: Ratio): bigint {
  return roundToGrains(terms, multiplyRatios(exactMinor(terms, amount), part));
}

/** Grains as minor units, rounded for showing and booking. Throws {@link BeyondExact} beyond what a number keeps exactly. */
export function bondMinor(terms: Rounded, amount: bigint): number {
  const grains = bondGrains(terms);
  return grains === 1n ? safeNumber(amount) : minorOfGrains(amount, grains, terms.rounding.ties);
}

/** Grains as an exact number of minor units. */
export function exactMinor(terms: Rounded, amount: bigint): Ratio {
  return { num: amount, den: bondGrains(terms) };
}

/** An exact amount rounded once to minor units as the terms say. */
export function roundForBond(terms: Rounded, exact: Ratio): number {
  return bondMinor(terms, roundToGrains(terms, exact));
}
