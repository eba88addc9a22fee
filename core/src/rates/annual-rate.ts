import type { Fraction } from '../calendar/fraction.ts';
import { ratio, type Ratio } from '../money/ratio.ts';

/**
 * Growth of an amount over a share of a year under compounding with each payment: rate × years, exact.
 * `annual` is a fraction (0.061 for 6.1 %).
 */
export function simpleGrowth(annual: Ratio, years: Fraction): Ratio {
  return ratio(annual.num * BigInt(years.num), annual.den * BigInt(years.den));
}

/**
 * A price per 1 of face in percent of it, for people: 403/400 is `100.75`.
 *
 * @example
 * formatPrice(ratio(387n, 400n)) // '96.75'
 */
export function formatPrice(ofFace: Ratio): string {
  return formatPercent(ofFace).slice(0, -1);
}

/**
 * A rate as a percentage for people, with two decimals or as many as it has: 61/1000 is `6.10%`.
 *
 * @example
 * formatPercent(ratio(1n, 16n)) // '6.25%'
 */
export function formatPercent(annual: Ratio): string {
  if (annual.num < 0n) return `−${formatPercent({ num: -annual.num, den: annual.den })}`;
  const scaled = ratio(annual.num * 100n, annual.den);
  const places = 12;
  const whole = (scaled.num * 10n ** BigInt(places)) / scaled.den;
  const text = whole.toString().padStart(places + 1, '0');
  const decimals = text.slice(-places).replace(/0+$/, '').padEnd(2, '0');
  return `${text.slice(0, -places)}.${decimals}%`;
}
