import * as v from 'valibot';

/** An amount as it is published: a plain decimal with the decimals of its currency, in currency units. */
export const publishedAmount = v.pipe(v.string(), v.regex(/^-?\d+(\.\d{1,4})?$/));

/** A day as it is published: `YYYY-MM-DD` (ISO 8601). */
export const publishedDay = v.pipe(v.string(), v.isoDate());

/** A percent a year as it is published, with as many decimals as it takes. */
export const publishedPercent = v.pipe(v.string(), v.regex(/^-?\d+(\.\d+)?%$/));

/** A number that is no amount, with as many decimals as it takes. */
export const publishedDecimal = v.pipe(v.string(), v.regex(/^-?\d+(\.\d+)?$/));

/** How near to nothing something came, with its power of ten. */
export const publishedResidual = v.pipe(v.string(), v.regex(/^-?\d+(\.\d+)?(e[+-]\d+)?$/));

/** How many of something. */
export const publishedCount = v.pipe(v.number(), v.integer(), v.minValue(0));
