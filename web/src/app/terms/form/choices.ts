import {
  businessCalendars,
  compoundings,
  couponFrequencies,
  dayCountNames,
  dayCounts,
  frequencies,
  type Compounding,
  type DayCountName,
} from '@coffer/core';
import type { BondEventType } from './bond-form';
import type { EventType } from './event-form';
import type { StretchType } from './stretch-form';
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
export const couponChoices: Choices = couponFrequencies.map((every) => [every, frequencyInWords(every)]);

/** What a stretch pays, in words that need no explanation. */
export const stretchNames: Readonly<Record<StretchType, string>> = {
  level: 'Level payments',
  fixed: 'A given payment',
  'equal-principal': 'Equal principal',
  'interest-only': 'Interest only',
  'no-payment': 'Nothing is paid',
  seasonal: 'Paid in some months',
  custom: 'Listed payments',
};
export const stretchChoices: Choices = Object.entries(stretchNames);

/** The same where there is little room. */
export const shortStretchNames: Readonly<Record<StretchType, string>> = {
  level: 'Level',
  fixed: 'Given',
  'equal-principal': 'Equal',
  'interest-only': 'Interest',
  'no-payment': 'Nothing',
  seasonal: 'Seasons',
  custom: 'Listed',
};

/** What may happen, in words. */
export const eventNames: Readonly<Record<EventType, string>> = {
  extra: 'Extra principal',
  'extra-each': 'Extra with each payment',
  draw: 'Draw',
  repayment: 'Repayment',
  'rate-step': 'Rate step',
  fixing: 'Index fixing',
  'payment-change': 'Changed payment',
  renewal: 'Renewal',
  'interest-added': 'Interest added to the balance',
  fee: 'Fee',
  settled: 'Settlement',
  'overpayment-returned': 'Overpayment returned',
  presentation: 'Presented otherwise',
};

/** What each is, in a few words. */
export const eventNotes: Readonly<Record<EventType, string>> = {
  extra: 'more is paid back, once',
  'extra-each': 'the same amount more each time',
  draw: 'more is lent',
  repayment: 'part or all is paid back',
  'rate-step': 'another rate from a day on',
  fixing: 'the index as published for a day',
  'payment-change': 'another payment from a day on',
  renewal: 'a new rate and term for the balance',
  'interest-added': 'what has accrued joins the balance',
  fee: 'charged by the lender',
  settled: 'all that is owed is paid',
  'overpayment-returned': 'what was paid too much comes back',
  presentation: 'current or not, whatever falls due',
};

/** The events of a loan and of a credit line, in the order they are offered. */
export const loanEvents: readonly EventType[] = [
  'extra',
  'extra-each',
  'draw',
  'rate-step',
  'fixing',
  'payment-change',
  'renewal',
  'interest-added',
  'fee',
  'settled',
  'overpayment-returned',
  'presentation',
];
export const lineEvents: readonly EventType[] = [
  'draw',
  'repayment',
  'rate-step',
  'fixing',
  'fee',
  'overpayment-returned',
  'presentation',
];

const compoundingNames: Readonly<Record<Compounding, string>> = {
  'each-payment': 'with each payment',
  annual: 'yearly',
  'half-yearly': 'half-yearly',
  quarterly: 'quarterly',
  monthly: 'monthly',
  daily: 'daily',
  continuous: 'continuously',
  simple: 'simple interest: never added',
};
export const compoundingChoices: Choices = compoundings.map((name) => [name, compoundingNames[name]]);

export const unpaidChoices: Choices = [
  ['added-each-period', 'is added to the balance each time'],
  ['kept-then-added', 'is kept apart, then added'],
  ['kept-then-paid', 'is kept apart, then paid'],
];

export const outsideChoices: Choices = [
  ['interest-added', 'interest is added'],
  ['interest-paid', 'interest is paid'],
];

export const extraThenChoices: Choices = [
  ['keep', 'stays, ends sooner'],
  ['re-level', 'is levelled anew'],
];
export const rateThenChoices: Choices = [
  ['re-level', 'is levelled anew'],
  ['keep', 'stays'],
];
export const drawThenChoices: Choices = [
  ['keep', 'stays'],
  ['re-level', 'is levelled anew'],
];

export const treatmentChoices: Choices = [
  ['expense', 'an expense of its day'],
  ['defer', 'deferred and amortized'],
];

export const presentationChoices: Choices = [
  ['current', 'as current'],
  ['non-current', 'as non-current'],
];

export const costsMethodChoices: Choices = [
  ['effective', 'in the effective rate'],
  ['straight-line', 'in equal parts'],
];

export const dueChoices: Choices = [
  ['end', 'at the end of each period'],
  ['start', 'in advance, the first at the start'],
];

export const atEndChoices: Choices = [
  ['pay', 'is paid with the last payment'],
  ['leave', 'is left for renewal'],
];

export const movingChoices: Choices = [
  ['none', 'stay where they fall'],
  ['following', 'following: to the next business day'],
  ['modified-following', 'modified following: to the next, within the month'],
  ['preceding', 'preceding: to the business day before'],
];

export const calendarChoices: Choices = businessCalendars.map((name) => [
  name,
  name === 'weekends' ? 'weekends only' : name,
]);

export const accrualChoices: Choices = [
  ['unmoved', 'to the agreed date'],
  ['moved', 'to the moved date'],
];

export const resetChoices: Choices = [
  ['none', 'at each fixing'],
  ...frequencies.map((every) => [every, frequencyInWords(every)] as const),
];

export const renewalEveryChoices: Choices = [
  ['same', 'as before'],
  ...frequencies.map((every) => [every, frequencyInWords(every)] as const),
];

export const loanClassChoices: Choices = [
  ['term-loan', 'Term loan'],
  ['note', 'Note'],
];

export const bondClassChoices: Choices = [
  ['bond', 'Bond'],
  ['note', 'Note'],
];

export const issuedForChoices: Choices = [
  ['cash', 'Cash'],
  ['goods', 'Goods'],
];

export const paysChoices: Choices = [
  ['coupons', 'Coupons'],
  ['nothing', 'No coupon'],
];

export const methodChoices: Choices = [
  ['effective', 'by effective interest'],
  ['straight-line', 'straight-line'],
];

export const effectiveRateChoices: Choices = [
  ['default', 'the market yield'],
  ['from-price', 'the rate that the price makes'],
];

/** What is agreed for a bond besides its coupons, or happens to it. */
export const bondEventChoices: readonly (readonly [value: BondEventType, name: string])[] = [
  ['instalment', 'Instalment due at face'],
  ['call', 'May be called'],
  ['redemption', 'Redemption before maturity'],
  ['presentation', 'Presented otherwise'],
];

export const financedChoices: Choices = [
  ['amount', 'Cash received'],
  ['purchase', 'Purchase: a price, less a down payment'],
  ['taken-on', 'Already running: a balance taken on'],
];

export const interestRoundingChoices: Choices = [
  ['cent', 'to the cent'],
  ['unit', 'to the whole unit'],
  ['none', 'not at all'],
];

export const paymentRoundingChoices: Choices = [
  ['cent', 'to the nearest cent'],
  ['cent-up', 'up to the cent'],
  ['unit', 'to the whole unit'],
  ['none', 'not at all'],
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
  'takenOn.accruedInterest': 'interest accrued',
  limit: 'limit',
  unusedFee: 'fee on the unused part',
  'payments.last': 'last payment',
  'rate.index.margin': 'margin',
  'rate.index.floor': 'floor',
  'rate.index.cap': 'cap',
  'issueCosts.amount': 'costs of the loan',
  start: 'start',
  'rate.annual': 'annual rate',
  'payments.first': 'first payment',
  face: 'face',
  issued: 'issue date',
  matures: 'maturity',
  'coupon.annual': 'coupon rate',
  price: 'price or market yield',
};
