import * as v from 'valibot';

const mostMatters = 1_000_000_000_000;
const threshold = v.pipe(
  v.number(),
  v.integer('expected whole minor units.'),
  v.minValue(0, 'expected no amount below zero.'),
  v.maxValue(mostMatters, 'expected a smaller amount.'),
);

/** From what amount on accruals matter, minor units: one by itself, and all that a month leaves out together. */
export const materiality = v.pipe(
  v.strictObject({ each: threshold, sum: threshold }),
  v.check(
    ({ each, sum }) => (each === 0) === (sum === 0) && sum >= each,
    'expected a sum of at least what one accrual may be, or neither.',
  ),
);
