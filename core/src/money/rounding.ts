import type { Decimal } from 'decimal.js';
import { fineGrains, minorOfGrains } from './grains.ts';
import { multiplyRatios, type Ratio } from './ratio.ts';
import { roundedDecimal } from './rounded-decimal.ts';
import { roundRatio, type Ties } from './round-ratio.ts';
import { safeNumber } from './rounded-product.ts';
import type { Count, MinorUnits } from '../units/units.ts';

/** Where terms of any kind say how amounts are rounded; `none` keeps full precision. */
export interface Rounded {
  /** Decimals of the currency's minor unit. */
  readonly digits: Count;
  readonly rounding: {
    readonly interest: 'cent' | 'unit' | 'none';
    readonly payment?: 'cent' | 'cent-up' | 'unit' | 'none';
    readonly deposit?: 'cent' | 'cent-up' | 'unit' | 'none';
    readonly ties: Ties;
  };
}

/** Grains per minor unit: fine ones where anything is kept unrounded. */
export function grainsOf({ rounding }: Pick<Rounded, 'rounding'>): bigint {
  const { interest, payment, deposit } = rounding;
  return interest === 'none' || payment === 'none' || deposit === 'none' ? fineGrains : 1n;
}

/** How many minor units interest is rounded to. */
export function interestStep({ rounding, digits }: Rounded): MinorUnits {
  return rounding.interest === 'unit' ? 10 ** digits : 1;
}

/** How many grains interest is rounded to. */
export function interestGrains(terms: Rounded): bigint {
  return terms.rounding.interest === 'none' ? 1n : BigInt(interestStep(terms)) * grainsOf(terms);
}

/** Exact grains rounded once, as the terms say of interest. */
export function roundGrains(terms: Rounded, exact: Ratio): bigint {
  const step = interestGrains(terms);
  return roundRatio({ num: exact.num, den: exact.den * step }, terms.rounding.ties) * step;
}

/** Exact minor units in grains, rounded once as the terms say of interest. */
export function toGrains(terms: Rounded, exact: Ratio): bigint {
  return roundGrains(terms, { num: exact.num * grainsOf(terms), den: exact.den });
}

/** Part of an amount of grains, rounded once as the terms say of interest. */
export function partOf(terms: Rounded, amount: bigint, part: Ratio): bigint {
  return roundGrains(terms, multiplyRatios({ num: amount, den: 1n }, part));
}

/** Grains as an exact number of minor units. */
export function exactMinor(terms: Pick<Rounded, 'rounding'>, amount: bigint): Ratio {
  return { num: amount, den: grainsOf(terms) };
}

/**
 * Grains as minor units for showing and booking, rounded where they are not whole. Throws {@link BeyondExact} beyond what
 * a number keeps exactly.
 *
 * @example
 * minorOf({ rounding: { interest: 'cent' } }, 12_345n) // 12_345
 */
export function minorOf(terms: Pick<Rounded, 'rounding'>, amount: bigint): MinorUnits {
  const grains = grainsOf(terms);
  return grains === 1n ? safeNumber(amount) : minorOfGrains(amount, grains, terms.rounding.ties);
}

/** Exact minor units rounded once as the terms say of interest; to the minor unit where they do not round. */
export function toMinor(terms: Rounded, exact: Ratio): MinorUnits {
  return minorOf(terms, toGrains(terms, exact));
}

/** To what a payment is rounded: so many minor units, to the nearest or upward. */
export interface PaymentRounding {
  readonly step: number;
  readonly how: Ties | 'upward';
}

/** How the terms round a payment or a deposit; to the minor unit where they do not round. */
export function paymentRounding({ digits, rounding }: Rounded, of: 'payment' | 'deposit'): PaymentRounding {
  const to = rounding[of];
  return { step: to === 'unit' ? 10 ** digits : 1, how: to === 'cent-up' ? 'upward' : rounding.ties };
}

/** A payment in minor units rounded as its terms say. */
export function roundedPayment({ step, how }: PaymentRounding, exact: Decimal): MinorUnits {
  return roundedDecimal(exact.div(step), how).times(step).toNumber();
}
