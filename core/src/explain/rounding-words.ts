import { ratio, ratioToDecimal, type Ratio } from '../money/ratio.ts';

/** An exact amount in minor units as an unrounded decimal in currency units. */
export function unroundedText(exact: Ratio, digits: number): string {
  return ratioToDecimal(ratio(exact.num, exact.den * 10n ** BigInt(digits)), digits + 8);
}

/** How interest is rounded, in words. */
export function roundingText(terms: { rounding: { interest: string; ties: string } }): string {
  if (terms.rounding.interest === 'none') return 'not rounded; shown to the cent';
  const to = terms.rounding.interest === 'unit' ? 'to the whole unit' : 'to the cent';
  return `${to}, ${terms.rounding.ties === 'even' ? 'a half to the even neighbour' : 'halves up'}`;
}
