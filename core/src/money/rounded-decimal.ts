import { Decimal } from 'decimal.js';
import type { Ties } from './round-ratio.ts';

/** Decimals compared before a value worked out with many digits is rounded: far beyond what a boundary is missed by. */
const comparedPlaces = 40;

/**
 * A decimal of high precision as a whole number. What lies within its last digits of a half is one that division could
 * not write out, and rounds as a half does; likewise for what is a whole number but for them.
 */
export function roundedDecimal(value: Decimal, how: Ties | 'upward'): Decimal {
  const mode =
    how === 'upward' ? Decimal.ROUND_CEIL : how === 'even' ? Decimal.ROUND_HALF_EVEN : Decimal.ROUND_HALF_UP;
  return value.toDecimalPlaces(comparedPlaces).toDecimalPlaces(0, mode);
}
