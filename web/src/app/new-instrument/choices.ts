import { dayCountNames, frequencies, type DayCountName, dayCounts } from '@coffer/core';
import { frequencyInWords } from '@coffer/contract';

type Choices = readonly (readonly [value: string, name: string])[];

const dayCountText = (name: DayCountName): string => (name === 'even-periods' ? 'even periods' : name);

/** Every day count, with its rule in words where the name does not say it. */
export const dayCountChoices: Choices = dayCountNames.map((name) => {
  const { title } = dayCounts[name];
  return [
    name,
    title === dayCountText(name) ? title : `${dayCountText(name)}: ${title.replace(/^30\/360, /, '')}`,
  ];
});

/** Every frequency of payments. */
export const frequencyChoices: Choices = frequencies.map((every) => [every, frequencyInWords(every)]);

/** The frequencies of coupons. */
export const couponChoices: Choices = [
  ['half-year', 'half-yearly'],
  ['year', 'yearly'],
];

export const stretchChoices: Choices = [
  ['level', 'Level payments'],
  ['fixed', 'A given payment'],
  ['interest-only', 'Interest only'],
];

export const loanClassChoices: Choices = [
  ['term-loan', 'Term loan'],
  ['note', 'Note'],
];

export const bondClassChoices: Choices = [
  ['bond', 'Bond'],
  ['note', 'Note'],
];

export const financedChoices: Choices = [
  ['amount', 'Cash received'],
  ['purchase', 'A purchase, less down payment'],
];

export const extraChoices: Choices = [
  ['once', 'On one day'],
  ['each', 'With each payment'],
];

export const interestRoundingChoices: Choices = [
  ['cent', 'to the cent'],
  ['unit', 'to the whole unit'],
];

export const paymentRoundingChoices: Choices = [
  ['cent', 'to the nearest cent'],
  ['cent-up', 'up to the cent'],
  ['unit', 'to the whole unit'],
];

export const tiesChoices: Choices = [
  ['away-from-zero', 'halves up'],
  ['even', 'halves to even'],
];

/** Names of fields by the document's keys, for saying which are still needed. */
export const fieldNames: Readonly<Record<string, string>> = {
  name: 'name',
  amount: 'amount',
  'purchase.price': 'price',
  'purchase.downPayment': 'down payment',
  start: 'start',
  'rate.annual': 'annual rate',
  'payments.first': 'first payment',
  face: 'face',
  issued: 'issue date',
  matures: 'maturity',
  'coupon.annual': 'coupon rate',
  price: 'price or market yield',
};
