import { Decimal } from 'decimal.js';
import type { Fraction } from '../calendar/fraction.ts';
import { factsByKey } from '../facts/facts.ts';
import { decimalOf, Precise } from '../money/precise.ts';
import { ratio, ratioToNumber, type Ratio } from '../money/ratio.ts';
import { simpleGrowth } from './annual-rate.ts';

/** How an annual rate compounds, by the name it has in an instrument document. */
export const compoundings = [
  'each-payment',
  'annual',
  'half-yearly',
  'quarterly',
  'monthly',
  'daily',
  'continuous',
  'simple',
] as const;

export type Compounding = (typeof compoundings)[number];

/** Compoundings a year, the m of the nominal rate, where there are so many. */
export const compoundingsPerYear: Readonly<Partial<Record<Compounding, number>>> = {
  annual: 1,
  'half-yearly': 2,
  quarterly: 4,
  monthly: 12,
  daily: 365,
};

const places = 65;
/** Every power has the same denominator, so that sums of them stay short. */
const lastPlace = 10n ** BigInt(places);

/**
 * A power is kept as an exact fraction up to this many bits of its denominator. Beyond, no balance below 2^53 times
 * it can end on an exact half, and 65 decimals round alike.
 */
const mostExactBits = 192;

/** Whether the growth of adjoining stretches multiplies, so that interest earns interest within a period. */
export function growsOnInterest(compounding: Compounding): boolean {
  return compounding === 'continuous' || compoundingsPerYear[compounding] !== undefined;
}

/**
 * Growth of an amount of one over a share of a year at a nominal annual rate j (a fraction).
 * - with each payment, and simple: j·t, exact.
 * - m times a year: (1 + j/m)^(m·t) − 1, exact where m·t is a small whole number, else to 65 decimals.
 * - continuous: e^(j·t) − 1, to 65 decimals.
 *
 * Source: Kellison, The Theory of Interest, sections 1.8 and 1.9 (nominal rates, force of interest).
 */
export function growthOver(annual: Ratio, compounding: Compounding, years: Fraction): Ratio {
  if (years.num === 0 || annual.num === 0n) return ratio(0n);
  const times = compoundingsPerYear[compounding];
  if (times === undefined) {
    const simple = simpleGrowth(annual, years);
    if (compounding !== 'continuous') return simple;
    return remembered(annual, `e ${years.num}/${years.den}`, () => toRatio(decimalOf(simple).exp().minus(1)));
  }
  const each = ratio(annual.num, annual.den * BigInt(times));
  const powers = times * years.num;
  const bits = each.den.toString(2).length;
  if (powers % years.den === 0 && (powers / years.den) * bits <= mostExactBits) {
    const whole = BigInt(powers / years.den);
    const den = each.den ** whole;
    return ratio((each.den + each.num) ** whole - den, den);
  }
  return remembered(annual, `${times} ${years.num}/${years.den}`, () => {
    const exponent = new Precise(powers).div(years.den);
    return toRatio(decimalOf(each).plus(1).pow(exponent).minus(1));
  });
}

/**
 * The same as a double, good to one part in 2^45: for estimates that settle all but the closest cases, and quick.
 */
export function growthEstimate(annual: Ratio, compounding: Compounding, years: Fraction): number {
  const rate = ratioToNumber(annual);
  const time = years.num / years.den;
  const times = compoundingsPerYear[compounding];
  if (times !== undefined) return Math.expm1(times * time * Math.log1p(rate / times));
  return compounding === 'continuous' ? Math.expm1(rate * time) : rate * time;
}

/** Powers to 80 digits take about a millisecond, and the same few are wanted for row after row. */
const remembered = factsByKey<Ratio, Ratio>();

function toRatio(value: Decimal): Ratio {
  const scaled = value.times(new Precise(10).pow(places)).toFixed(0, Decimal.ROUND_HALF_UP);
  return { num: BigInt(scaled), den: lastPlace };
}
