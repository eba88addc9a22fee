import type { Rise } from '@coffer/core';
import type { AmountReader } from '../../document/amount-reader.ts';
import { rateOf } from '../../document/rate-terms-of.ts';

/** By how much an amount rises each year, where that is stated. */
export function risesOf(
  text: string | undefined,
  key: string,
  read: AmountReader,
): { readonly rises?: Rise } {
  if (text === undefined) return {};
  if (!text.endsWith('%')) return { rises: { by: 'amount', amount: read.positive(key, text) } };
  return { rises: { by: 'share', share: rateOf(text) } };
}
