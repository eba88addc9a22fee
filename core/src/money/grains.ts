import { roundRatio, type Ties } from './round-ratio.ts';

/**
 * Grains are the smallest amount that a schedule keeps: a minor unit where amounts are rounded, this part of one
 * where nothing is.
 */
export const fineGrains = 10n ** 30n;

/** The smaller of two amounts in grains. */
export const least = (a: bigint, b: bigint): bigint => (a < b ? a : b);
/** An amount in grains, none below zero. */
export const atLeastZero = (a: bigint): bigint => (a > 0n ? a : 0n);

/** Decimals of a minor unit that are compared before an unrounded amount is rounded for showing. */
const comparedPlaces = 10n ** 18n;

/**
 * An amount in grains as minor units, rounded where it is not whole. What lies within the last dozen of the thirty
 * digits kept from a half is one that division could not write out, and rounds as a half does.
 *
 * @param grains per minor unit: 1 or {@link fineGrains}
 */
export function minorOfGrains(amount: bigint, grains: bigint, ties: Ties): number {
  if (grains === 1n) return Number(amount);
  const compared = roundRatio({ num: amount * comparedPlaces, den: grains }, ties);
  return Number(roundRatio({ num: compared, den: comparedPlaces }, ties));
}
