import * as v from 'valibot';
import { frequencies } from '@coffer/core';
import { amountText, dayText, rateText, shortText } from '../document/scalars.ts';

/** The version of the plan document. */
export const planVersion = 'coffer.plan/1';

const member = v.strictObject({
  /** The instrument's document. */
  instrument: v.unknown(),
  /** The least that is paid each time. */
  least: v.optional(amountText),
  /** Whether it may be repaid early. */
  prepay: v.optional(v.boolean()),
});

const horizons = v.strictObject({
  every: v.picklist(['month', 'year']),
  count: v.pipe(
    v.number(),
    v.integer(),
    v.minValue(1, 'expected at least 1.'),
    v.maxValue(600, 'expected at most 600.'),
  ),
});

const budget = v.strictObject({
  monthly: amountText,
  use: v.union([
    v.picklist(['same-day', 'highest-rate', 'smallest-balance']),
    v.pipe(v.array(shortText), v.minLength(1, 'expected at least one name.')),
  ]),
});

const income = v.strictObject({
  /** Fixed outlays of a month. */
  outlays: v.optional(amountText),
  outlaysDeductible: v.optional(v.boolean()),
  taxRate: v.optional(rateText),
  interestDeductible: v.optional(v.boolean()),
  /** Of a year. */
  operatingCash: v.optional(amountText),
});

/** Several instruments, and what is asked of them: a day, horizons to compare, a budget. */
export const planDocument = v.strictObject({
  document: v.literal(planVersion),
  name: v.optional(shortText),
  /** The plan starts after this day. */
  on: dayText,
  clearBy: v.optional(dayText),
  instruments: v.pipe(
    v.array(member),
    v.minLength(1, 'expected at least one instrument.'),
    v.maxLength(1000, 'expected at most 1,000 instruments.'),
  ),
  fund: v.optional(v.strictObject({ rate: rateText, every: v.optional(v.picklist(frequencies)) })),
  horizons: v.optional(horizons),
  hurdle: v.optional(rateText),
  freedCash: v.optional(v.picklist(['month', 'year'])),
  budget: v.optional(budget),
  income: v.optional(income),
  /** The month that a fiscal year ends with. */
  fiscalYearEndMonth: v.optional(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(12))),
});
export type PlanDocument = v.InferOutput<typeof planDocument>;
