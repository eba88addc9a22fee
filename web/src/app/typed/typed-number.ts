import { decimalMark } from '@coffer/contract';

/** A plain decimal, such as `1250000` or `6.125`. */
export type PlainDecimal = string;

const multiples: Readonly<Record<string, number>> = { k: 3, m: 6, bn: 9 };

/** Moves the point of a plain decimal to the right. */
function shifted(decimal: PlainDecimal, places: number): PlainDecimal {
  const [whole = '', decimals = ''] = decimal.split('.');
  const padded = decimals.padEnd(places, '0');
  const rest = padded.slice(places);
  return tidy(`${whole}${padded.slice(0, places)}${rest ? `.${rest}` : ''}`);
}

function tidy(decimal: PlainDecimal): PlainDecimal {
  const [whole = '', decimals] = decimal.split('.');
  const trimmed = whole.replace(/^0+(?=\d)/, '') || '0';
  return decimals === undefined ? trimmed : `${trimmed}.${decimals}`;
}

const points = String.raw`(\d{1,3}(?:[, '’]\d{3})+|\d+|(?=\.\d))(?:\.(\d+))?`;
const commas = String.raw`(\d{1,3}(?:[. '’]\d{3})+|\d+|(?=,\d))(?:,(\d+))?`;
const multiple = String.raw`\s?(k|m|bn)?$`;

/** Numbers with points before the decimals, and with commas. */
const forms = {
  '.': new RegExp(`^${points}${multiple}`),
  ',': new RegExp(`^${commas}${multiple}`),
} as const;

/** Numbers that can mean one thing only, whatever somebody is used to: two marks, or one mark between thousands twice. */
const plainEitherWay = /[.,].*[., '’].*\d|[ '’].*[.,]/;

/**
 * Reads an amount or a number as people type it: `1,250,000`, `1 250 000.50`, `1.2m`, `350k`; with commas before the
 * decimals where the company writes them so. Another way is understood where it can mean one thing only: `1.250,50`.
 * `undefined` for anything else, negative numbers too.
 */
export function readNumber(text: string): PlainDecimal | undefined {
  const typed = text.trim().toLowerCase().replaceAll(/\s/g, ' ');
  const mark = decimalMark();
  const other = mark === '.' ? ',' : '.';
  const match = forms[mark].exec(typed) ?? (plainEitherWay.test(typed) ? forms[other].exec(typed) : null);
  if (!match) return undefined;
  const [, whole = '', decimals, times] = match;
  const plain = tidy(`${whole.replaceAll(/\D/g, '')}${decimals === undefined ? '' : `.${decimals}`}`);
  return times === undefined ? plain : shifted(plain, multiples[times] ?? 0);
}

/**
 * Reads a percentage as people type it: `6.1`, `6,1%`, `6 1/8` or `5½`. Fractions must come out even in decimals. No
 * percentage has thousands, so a comma and a point both stand before decimals.
 */
export function readPercent(text: string): PlainDecimal | undefined {
  const typed = text
    .trim()
    .replace(/\s*%$/, '')
    .replace('½', ' 1/2')
    .replace('¼', ' 1/4')
    .replace('¾', ' 3/4')
    .trim();
  const mixed = /^(?:(\d+)\s+)?(\d+)\/(\d+)$/.exec(typed);
  const simple = /^(\d*)[.,](\d+)$/.exec(typed);
  if (simple) return tidy(`${simple[1] ?? ''}.${simple[2] ?? ''}`);
  if (!mixed) return readNumber(typed);
  const [top, bottom] = [Number(mixed[2]), Number(mixed[3])];
  if (![2, 4, 5, 8, 10, 16, 20, 32, 64].includes(bottom) || top >= bottom) return undefined;
  // Six decimals hold every 64th exactly.
  const millionths = (top * 1_000_000) / bottom;
  const decimals = millionths.toString().padStart(6, '0').replace(/0+$/, '');
  return `${Number(mixed[1] ?? 0)}${decimals ? `.${decimals}` : ''}`;
}
