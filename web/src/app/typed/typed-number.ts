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

/**
 * Reads an amount or a number as people type it: `1,250,000`, `1 250 000.50`, `1.2m`, `350k`. Commas, spaces and
 * apostrophes separate thousands, a point the decimals. `undefined` for anything else, negative numbers too.
 */
export function readNumber(text: string): PlainDecimal | undefined {
  const typed = text.trim().toLowerCase().replaceAll(/\s/g, ' ');
  const match = /^(\d{1,3}(?:[, '’]\d{3})+|\d+|(?=\.\d))(\.\d+)?\s?(k|m|bn)?$/.exec(typed);
  if (!match) return undefined;
  const plain = tidy(`${(match[1] ?? '').replaceAll(/\D/g, '')}${match[2] ?? ''}`);
  return match[3] === undefined ? plain : shifted(plain, multiples[match[3]] ?? 0);
}

/**
 * Reads a percentage as people type it: `6.1`, `6.1%`, `6 1/8` or `5½`. Fractions must come out even in decimals.
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
  if (!mixed) return readNumber(typed);
  const [top, bottom] = [Number(mixed[2]), Number(mixed[3])];
  if (![2, 4, 5, 8, 10, 16, 20, 32, 64].includes(bottom) || top >= bottom) return undefined;
  // Six decimals hold every 64th exactly.
  const millionths = (top * 1_000_000) / bottom;
  const decimals = millionths.toString().padStart(6, '0').replace(/0+$/, '');
  return `${Number(mixed[1] ?? 0)}${decimals ? `.${decimals}` : ''}`;
}
