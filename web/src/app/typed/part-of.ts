import { currencyDigits, formatAmount, ratio, ratioFromDecimal, roundRatio } from '@coffer/core';
import { readNumber, readPercent, type PlainDecimal } from './typed-number';

/**
 * A part of an amount, as people type it: `15%` of what another field holds, to the currency's minor unit, halves up.
 * `undefined` where it is no percentage from 0 to 100, or the whole is not typed yet.
 */
export function readPartOf(part: string, whole: string, currency: string): PlainDecimal | undefined {
  if (!part.trim().endsWith('%')) return undefined;
  const [percent, of] = [readPercent(part), readNumber(whole)];
  const digits = currencyDigits(currency);
  if (percent === undefined || Number(percent) > 100 || of === undefined || digits === undefined)
    return undefined;
  const [share, amount] = [ratioFromDecimal(percent), ratioFromDecimal(of)];
  const minor = ratio(share.num * amount.num * 10n ** BigInt(digits), share.den * amount.den * 100n);
  return formatAmount(Number(roundRatio(minor, 'away-from-zero')), digits);
}
