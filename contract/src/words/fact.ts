import { showDecimal } from './show.ts';

/** A fact of an agreement: what it is, and what was agreed. */
export type Fact = readonly [name: string, value: string];

/** An amount of a document, or that it is worked out. */
export function statedAmount(amount: string | undefined): string {
  return amount === '?' ? 'worked out' : showDecimal(amount ?? '');
}

const compounded: Readonly<Record<string, string>> = {
  'each-payment': 'with each payment',
  annual: 'yearly',
  continuous: 'continuously',
  simple: 'never: simple interest',
};

/** How interest compounds, in words. */
export function compoundedInWords(compounding: string): string {
  return compounded[compounding] ?? compounding;
}
