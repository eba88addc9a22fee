import { formatAmount, parseAmount } from '@coffer/core';
import { readNumber, readPercent } from '../../typed/typed-number';
import type { VariedTerm } from '../tried';

/** One side of a grid as it is typed: a term from one value to another in steps. */
export interface TypedAxis {
  readonly term: VariedTerm;
  readonly from: string;
  readonly to: string;
  readonly by: string;
}

/** Values along one side at most. */
export const mostValues = 25;

/** Decimals that a term's values are counted in: rates in millionths of a percent, counts in whole ones. */
function placesOf(term: VariedTerm, digits: number): number {
  if (term === 'annual') return 6;
  return term === 'payments' ? 0 : digits;
}

function written(term: VariedTerm, units: number, places: number): string {
  const plain = formatAmount(units, places);
  if (term !== 'annual') return plain;
  return `${plain.replace(/\.?0+$/, '')}%`;
}

/** The values of one side, as a change states them; or what is wrong with what was typed. */
export function axisValues(
  { term, from, to, by }: TypedAxis,
  digits: number,
): { readonly values: readonly string[] } | { readonly fault: string } {
  const places = placesOf(term, digits);
  const read = (text: string): number | undefined => {
    const plain = term === 'annual' ? readPercent(text) : readNumber(text);
    return plain === undefined ? undefined : parseAmount(plain, places);
  };
  const [first, last, step] = [read(from), read(to), read(by)];
  if (first === undefined || last === undefined || step === undefined) {
    const wrong = [from, to, by].find((text) => read(text) === undefined) ?? '';
    return { fault: wrong === '' ? 'Type from, to and the step.' : `“${wrong}” is not understood.` };
  }
  if (step === 0) return { fault: 'The step must be more than nothing.' };
  if (last < first) return { fault: 'The first value must not be above the last.' };
  const count = Math.floor((last - first) / step) + 1;
  if (count > mostValues)
    return { fault: `${count} values; take a wider step, so that there are at most ${mostValues}.` };
  return { values: Array.from({ length: count }, (_, at) => written(term, first + at * step, places)) };
}
