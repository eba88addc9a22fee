/** An exact rational number; `den` is positive. {@link ratio} gives it in lowest terms; sums and products may not be. */
export interface Ratio {
  readonly num: bigint;
  readonly den: bigint;
}

/** Greatest common divisor of two non-negative integers (Euclid). */
function gcd(a: bigint, b: bigint): bigint {
  while (b !== 0n) [a, b] = [b, a % b];
  return a;
}

/**
 * The ratio `num / den` in lowest terms. Throws `RangeError` when `den` is zero.
 *
 * @example
 * ratio(6n, 8n) // { num: 3n, den: 4n }
 */
export function ratio(num: bigint, den = 1n): Ratio {
  if (den === 0n) throw new RangeError('A ratio needs a denominator other than zero.');
  if (den < 0n) [num, den] = [-num, -den];
  const common = gcd(num < 0n ? -num : num, den);
  return common > 1n ? { num: num / common, den: den / common } : { num, den };
}

/** Above this, common factors are worth looking for; below, looking costs more than carrying them. */
const long = 2n ** 512n;

function shortened(num: bigint, den: bigint): Ratio {
  return den < long ? { num, den } : ratio(num, den);
}

/** Exact sum. */
export function addRatios(a: Ratio, b: Ratio): Ratio {
  if (a.num === 0n) return b;
  if (b.num === 0n) return a;
  if (a.den === b.den) return shortened(a.num + b.num, a.den);
  return shortened(a.num * b.den + b.num * a.den, a.den * b.den);
}

/**
 * Negative, zero or positive as `a` is less than, equal to or more than `b`.
 *
 * @example
 * compareRatios(ratio(1n, 3n), ratio(1n, 2n)) // -1
 */
export function compareRatios(a: Ratio, b: Ratio): number {
  const difference = a.num * b.den - b.num * a.den;
  return difference < 0n ? -1 : difference > 0n ? 1 : 0;
}

/**
 * The nearest double, good to about 15 digits for ratios of any size of parts; for estimates only.
 *
 * @example
 * ratioToNumber(ratio(1n, 8n)) // 0.125
 */
export function ratioToNumber(value: Ratio): number {
  const [num, den] = [Number(value.num), Number(value.den)];
  if (Number.isFinite(num) && Number.isFinite(den)) return num / den;
  return Number((value.num * 10n ** 40n) / value.den) / 1e40;
}

/** Exact product. */
export function multiplyRatios(a: Ratio, b: Ratio): Ratio {
  return shortened(a.num * b.num, a.den * b.den);
}

/**
 * The exact value of a plain decimal such as `6.125`. Throws `SyntaxError` for anything else.
 *
 * @example
 * ratioFromDecimal('0.125') // { num: 1n, den: 8n }
 */
export function ratioFromDecimal(text: string): Ratio {
  const match = /^(-?)(\d+)(?:\.(\d+))?$/.exec(text);
  if (!match) throw new SyntaxError(`"${text}" is not a plain decimal number.`);
  const decimals = match[3] ?? '';
  const magnitude = BigInt((match[2] ?? '0') + decimals);
  return ratio(match[1] === '-' ? -magnitude : magnitude, 10n ** BigInt(decimals.length));
}

/**
 * The first `places` decimals of a ratio, cut and not rounded, marked with an ellipsis where more follow.
 * For showing an unrounded value; never for computing.
 */
export function ratioToDecimal(value: Ratio, places: number): string {
  const negative = value.num < 0n;
  const scaled = ((negative ? -value.num : value.num) * 10n ** BigInt(places)) / value.den;
  const exact = scaled * value.den === (negative ? -value.num : value.num) * 10n ** BigInt(places);
  const digits = scaled.toString().padStart(places + 1, '0');
  const whole = digits.slice(0, digits.length - places);
  const decimals = digits.slice(digits.length - places);
  const shown = exact ? decimals.replace(/0+$/, '') : decimals;
  return `${negative ? '-' : ''}${whole}${shown ? `.${shown}` : ''}${exact ? '' : '…'}`;
}
