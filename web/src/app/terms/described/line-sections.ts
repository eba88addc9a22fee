import type { Section } from '../../fields/field';
import type { TypedLoan } from '../form/loan-form';
import {
  closedDays,
  inCurrency,
  start,
  rateAndDays,
  rateAndCompounding,
  costs,
  interestRounding,
  ties,
} from './borrowed-sections';

/** What is agreed for a credit line as a whole. */
const agreed: Section<TypedLoan> = {
  rows: [
    [
      { control: 'limit', key: 'limit', label: inCurrency('Limit'), reads: 'amount' },
      {
        control: 'unusedFee',
        key: 'unusedFee',
        label: 'Fee on the unused part, %',
        reads: 'rate',
        optional: true,
      },
    ],
    [
      start,
      { control: 'matures', key: 'matures', label: 'Matures', reads: 'day', optional: true, empty: 'open' },
    ],
    rateAndDays,
  ],
};

/** What an agreement says besides. */
const details: readonly Section<TypedLoan>[] = [
  rateAndCompounding([]),
  {
    title: 'Dates and business days',
    rows: [
      [
        {
          control: 'firstBill',
          key: 'firstBill',
          label: 'First bill',
          reads: 'day',
          optional: true,
          empty: 'the last day of the month',
        },
      ],
      ...closedDays('businessDays'),
    ],
  },
  {
    title: 'Costs and rounding',
    rows: [
      [costs],
      (): string => 'Costs are an asset, in equal parts over the term.',
      [interestRounding, ties],
    ],
  },
];

/** All that is asked of a credit line as a whole. */
export const lineFields = { agreed: [agreed], paid: [], details } as const;
export const lineSections: readonly Section<TypedLoan>[] = [agreed, ...details];
