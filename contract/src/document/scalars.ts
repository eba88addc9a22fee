import * as v from 'valibot';
import { currencyDigits, parseDay } from '@coffer/core';

/** An amount in currency units: a decimal string, never negative. */
export const amountText = v.pipe(
  v.string(),
  v.regex(
    /^\d{1,15}(\.\d{1,4})?$/,
    'expected an amount such as "640000.00", not negative, without separators.',
  ),
);

/** An annual rate: a decimal string with a percent sign, 0 to 1000 %. */
export const rateText = v.pipe(
  v.string(),
  v.regex(/^\d{1,4}(\.\d{1,12})?%$/, 'expected a yearly rate such as "6.10%", not negative.'),
  v.check((text) => Number.parseFloat(text) <= 1000, 'a rate may be at most 1000%.'),
);

/** A rate, or a margin, that may be below zero. */
export const signedRateText = v.pipe(
  v.string(),
  v.regex(/^-?\d{1,4}(\.\d{1,12})?%$/, 'expected a yearly rate such as "3.25%" or "-0.50%".'),
  v.check((text) => Math.abs(Number.parseFloat(text)) <= 1000, 'a rate may be at most 1000%.'),
);

/** By how much an amount rises each year: a share such as `3%`, or an amount. */
export const riseText = v.union(
  [rateText, amountText],
  'expected a yearly rise such as "3%" or "100.00", not negative.',
);

/** An amount, or `?` where it is to be solved. */
export const amountOrUnknown = v.pipe(
  v.string(),
  v.regex(
    /^(\?|\d{1,15}(\.\d{1,4})?)$/,
    'expected an amount such as "640000.00", not negative, without separators, or "?" to have it solved.',
  ),
);

/** A rate, or `?` where it is to be solved. */
export const rateOrUnknown = v.pipe(
  v.string(),
  v.regex(
    /^(\?|\d{1,4}(\.\d{1,12})?%)$/,
    'expected a yearly rate such as "6.10%", not negative, or "?" to have it solved.',
  ),
  v.check((text) => text === '?' || Number.parseFloat(text) <= 1000, 'a rate may be at most 1000%.'),
);

/** A calendar date that exists, from 1900 to 2200. */
export const dayText = v.pipe(
  v.string(),
  v.regex(/^\d{4}-\d{2}-\d{2}$/, 'expected a date such as "2024-06-15" (year, month, day).'),
  v.check((text) => parseDay(text) !== undefined, 'there is no such date.'),
  v.check((text) => text >= '1900-01-01' && text <= '2199-12-31', 'expected a date from 1900 to 2199.'),
);

/** An ISO 4217 currency code in use. */
export const currencyCode = v.pipe(
  v.string(),
  v.check((code) => currencyDigits(code) !== undefined, 'expected an ISO 4217 currency code such as "EUR".'),
);

/** A count of payments. */
export const paymentCount = v.pipe(
  v.number(),
  v.integer('expected a whole number of payments.'),
  v.minValue(1, 'expected at least 1 payment.'),
  v.maxValue(1200, 'expected at most 1200 payments.'),
);

/** A count of payments, or `?` where it is to be solved. */
export const countOrUnknown = v.union([paymentCount, v.literal('?')]);

/** Characters that move or hide text, and halves of characters: what a name shows is what it is. */
const unseen = /[\p{Cc}\p{Cs}\u061C\u200E\u200F\u202A-\u202E\u2066-\u2069]/u;

/** A name or reference that people read. */
export const shortText = v.pipe(
  v.string(),
  v.trim(),
  v.check(
    (text) => !unseen.test(text),
    'expected text without control characters and without marks that turn its direction.',
  ),
  v.minLength(1, 'expected some text.'),
  v.maxLength(120, 'expected at most 120 characters.'),
);
