import { Decimal } from 'decimal.js';
import type { Ratio } from './ratio.ts';

/** Decimals of 80 digits, for what is solved or grows and is reported to 30. */
export const Precise = Decimal.clone({ precision: 80, toExpPos: 200, toExpNeg: -200 });

/** A ratio as a decimal. */
export function decimalOf(value: Ratio): Decimal {
  return new Precise(value.num.toString()).div(value.den.toString());
}
