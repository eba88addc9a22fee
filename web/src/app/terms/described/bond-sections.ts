import type { Field, Section } from '../../fields/field';
import {
  bondClassChoices,
  costsMethodChoices,
  couponChoices,
  dayCountChoices,
  effectiveRateChoices,
  interestRoundingChoices,
  issuedForChoices,
  methodChoices,
  paysChoices,
  tiesChoices,
} from '../form/choices';
import type { TypedBond } from '../form/bond-form';

type BondField = Field<TypedBond>;

const pays = (typed: TypedBond): boolean => typed.pays === 'coupons';
const soldBetween = (typed: TypedBond): boolean => pays(typed) && typed.soldBetween;
const zero = (typed: TypedBond): boolean => !pays(typed);

const every = (key: string, label: string, when: (typed: TypedBond) => boolean): BondField => ({
  control: 'every',
  ...(key !== '' && { key }),
  label,
  choices: couponChoices,
  when,
  faults: ['coupon.every'],
});

const marketYield = (key: string, when: (typed: TypedBond) => boolean): BondField => ({
  control: 'yield',
  key,
  label: 'Market yield, %',
  reads: 'signed-rate',
  optional: true,
  when,
  faults: ['yield', 'yield.annual'],
});

/** What is agreed for a bond, and how it was sold. */
export const bondSections: readonly Section<TypedBond>[] = [
  {
    rows: [
      [
        { control: 'class', key: 'class', label: 'Listed as', choices: bondClassChoices, default: 'bond' },
        {
          control: 'issuedFor',
          key: 'issuedFor',
          label: 'Issued for',
          choices: issuedForChoices,
          absent: 'cash',
        },
      ],
      [
        {
          control: 'face',
          key: 'face',
          label: (_typed, { currency }) => `Face, ${currency}`,
          reads: 'amount',
        },
      ],
      [
        {
          control: 'issued',
          key: 'issued',
          label: 'Issued',
          reads: 'day',
          placeholder: 'such as 2026-04-01',
        },
        {
          control: 'matures',
          key: 'matures',
          label: 'Matures',
          reads: 'day',
          placeholder: 'such as 2036-04-01',
        },
      ],
      [{ control: 'soldBetween', label: 'Sold between coupon dates', flag: true, when: pays }],
      [
        {
          control: 'dated',
          key: 'dated',
          label: 'Coupon runs from',
          reads: 'day',
          when: soldBetween,
          placeholder: 'such as 2026-04-01',
        },
      ],
      [
        { control: 'pays', label: 'Pays', choices: paysChoices },
        { control: 'coupon', key: 'coupon.annual', label: 'Coupon rate, %', reads: 'rate', when: pays },
      ],
      [
        every('coupon.every', 'Coupon paid', pays),
        every('', 'Yield compounded', zero),
        { control: 'dayCount', key: 'coupon.dayCount', label: 'Days', choices: dayCountChoices, when: pays },
        { control: 'dayCount', key: 'yield.dayCount', label: 'Days', choices: dayCountChoices, when: zero },
      ],
      [
        {
          control: 'monthEnd',
          key: 'coupon.monthEnd',
          label: 'Coupons on month ends',
          flag: true,
          when: pays,
        },
      ],
    ],
  },
  {
    // Dates of odd periods are few; they are open where they say something.
    title: 'An odd first or last period',
    faults: ['matures'],
    open: ({ firstCoupon, lastCoupon }) => [firstCoupon, lastCoupon].some((typed) => typed.trim() !== ''),
    rows: [
      [
        {
          control: 'firstCoupon',
          key: 'coupon.first',
          label: 'First coupon, if odd',
          reads: 'day',
          optional: true,
          when: pays,
        },
        {
          control: 'lastCoupon',
          key: 'coupon.last',
          label: 'Last before maturity, if odd',
          reads: 'day',
          optional: true,
          when: pays,
        },
      ],
    ],
  },
  {
    rows: [
      (): string => 'Type the price or the market yield; the other is worked out.',
      [
        { control: 'price', key: 'price', label: 'Price, percent of face', reads: 'price', optional: true },
        marketYield('yield', pays),
        marketYield('yield.annual', zero),
      ],
      [
        {
          control: 'effectiveRate',
          key: 'amortization.rate',
          label: 'Expense runs at',
          choices: effectiveRateChoices,
          absent: 'default',
          when: (typed) => typed.price.trim() !== '' && typed.yield.trim() !== '',
        },
      ],
      [
        {
          control: 'method',
          key: 'amortization.method',
          label: 'Amortized',
          choices: methodChoices,
          absent: 'effective',
        },
        { control: 'costs', key: 'issueCosts.amount', label: 'Issue costs', reads: 'amount', optional: true },
      ],
      [
        {
          control: 'costsMethod',
          key: 'issueCosts.method',
          label: 'Costs amortized',
          choices: costsMethodChoices,
          default: 'effective',
          when: ({ costs, method }) => costs.trim() !== '' && method === 'effective',
        },
      ],
    ],
  },
];

/** How a bond's figures are rounded. */
export const bondRounding: readonly Section<TypedBond>[] = [
  {
    title: 'Rounding',
    open: ({ interestRounding, ties }) => interestRounding !== 'cent' || ties !== 'away-from-zero',
    rows: [
      [
        {
          control: 'interestRounding',
          key: 'rounding.interest',
          label: 'Coupon and expense',
          choices: interestRoundingChoices,
          default: 'cent',
        },
        {
          control: 'ties',
          key: 'rounding.ties',
          label: 'Halves',
          choices: tiesChoices,
          default: 'away-from-zero',
        },
      ],
    ],
  },
];
