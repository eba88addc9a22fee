import type { Count, MinorUnits } from '../units/units.ts';

/**
 * An amount in minor units as a plain decimal with exactly `digits` decimals: `(938019, 2)` is `9380.19`.
 * The form used in documents, on the command line and in files.
 *
 * @example
 * formatAmount(123_456, 2) // '1234.56'
 */
export function formatAmount(minor: MinorUnits, digits: Count): string {
  const sign = minor < 0 ? '-' : '';
  const text = Math.abs(minor)
    .toString()
    .padStart(digits + 1, '0');
  if (digits === 0) return sign + text;
  return `${sign}${text.slice(0, -digits)}.${text.slice(-digits)}`;
}

/**
 * Reads a plain decimal as minor units; `undefined` when it is not one, has more decimals than the currency,
 * or is too large to be kept exactly.
 *
 * @example
 * parseAmount('1234.56', 2) // 123_456
 */
export function parseAmount(text: string, digits: Count): MinorUnits | undefined {
  const match = /^(-?)(\d+)(?:\.(\d+))?$/.exec(text);
  if (!match || (match[3] ?? '').length > digits) return undefined;
  const value = Number((match[2] ?? '') + (match[3] ?? '').padEnd(digits, '0'));
  if (!Number.isSafeInteger(value)) return undefined;
  return match[1] === '-' && value !== 0 ? -value : value;
}
