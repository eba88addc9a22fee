/** How often payments or coupons fall due. */
export const frequencies = [
  'week',
  'two-weeks',
  'half-month',
  'month',
  'two-months',
  'quarter',
  'four-months',
  'half-year',
  'year',
] as const;

export type Frequency = (typeof frequencies)[number];

/** Payments a year, the p of the `even-periods` rule. */
export const paymentsPerYear: Readonly<Record<Frequency, number>> = {
  week: 52,
  'two-weeks': 26,
  'half-month': 24,
  month: 12,
  'two-months': 6,
  quarter: 4,
  'four-months': 3,
  'half-year': 2,
  year: 1,
};

/** Whole months from one payment to the next, for the frequencies that are counted in months. */
export const monthsBetweenPayments: Readonly<Partial<Record<Frequency, number>>> = {
  month: 1,
  'two-months': 2,
  quarter: 3,
  'four-months': 4,
  'half-year': 6,
  year: 12,
};
