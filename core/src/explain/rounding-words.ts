import { ratio, ratioToDecimal, type Ratio } from '../money/ratio.ts';
import type { Ties } from '../money/round-ratio.ts';

/** An exact amount in minor units as an unrounded decimal in currency units. */
export function unroundedText(exact: Ratio, digits: number): string {
  return ratioToDecimal(ratio(exact.num, exact.den * 10n ** BigInt(digits)), digits + 8);
}

/** To what an amount is rounded, in words. */
export function roundedTo(to: 'cent' | 'cent-up' | 'unit' | 'none', ties: Ties): string {
  if (to === 'none') return 'not rounded; shown to the cent';
  if (to === 'cent-up') return 'up to the cent';
  const half = ties === 'even' ? 'a half to the even neighbour' : 'halves up';
  return `${to === 'unit' ? 'to the whole unit' : 'to the cent'}, ${half}`;
}

/** How interest is rounded, in words. */
export function roundingText({
  rounding,
}: {
  readonly rounding: { readonly interest: 'cent' | 'unit' | 'none'; readonly ties: Ties };
}): string {
  return roundedTo(rounding.interest, rounding.ties);
}
