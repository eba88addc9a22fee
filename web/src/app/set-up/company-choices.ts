import { currencyCodes, currencyDigits } from '@coffer/core';
import { monthInWords } from '@coffer/contract';

const names = new Intl.DisplayNames('en', { type: 'currency' });
const decimals = (code: string): string => {
  const digits = currencyDigits(code) ?? 2;
  return digits === 0 ? 'no decimals' : `${digits} decimals`;
};

/** Currencies that books are kept in, with their decimals. */
export const currencyChoices = currencyCodes.map(
  (code) => [code, `${code} · ${decimals(code)}: ${names.of(code) ?? ''}`] as const,
);

/** Months that a fiscal year ends with. */
export const monthNameChoices = Array.from(
  { length: 12 },
  (_, at) => [String(at + 1), monthInWords(at + 1)] as const,
);
