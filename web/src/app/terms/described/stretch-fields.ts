import type { Field, Row } from '../../fields/field';
import { amountHint } from '../../fields/hints';
import { unpaidChoices } from '../form/choices';
import type { StretchType, TypedStretch } from '../form/stretch-form';

type StretchField = Field<TypedStretch>;

const count = (rest: Partial<Extract<StretchField, { reads: string }>> = {}): StretchField => ({
  control: 'count',
  key: 'count',
  label: 'Number of payments',
  reads: 'count',
  placeholder: 'such as 84 or 7 years',
  ...rest,
});
const payment = (rest: Partial<Extract<StretchField, { reads: string }>> = {}): StretchField => ({
  control: 'payment',
  key: 'payment',
  label: 'Payment',
  reads: 'amount',
  ...rest,
});

const rises: StretchField = {
  control: 'rises',
  key: 'rises',
  label: 'Rising each year by',
  reads: 'rise',
  optional: true,
  placeholder: 'such as 3% or 100',
};

/** Whether something is typed that is only asked for where the number of payments is known. */
const bounded = ({ count: counted, amortizeOver, balloon }: TypedStretch): boolean =>
  counted !== '?' || amortizeOver !== '' || balloon !== '';

/** How each type of stretch is typed. */
export const stretchFields: Readonly<Record<StretchType, readonly Row<TypedStretch>[]>> = {
  level: [
    [count({ solvable: true }), payment({ solvable: true, optional: true, empty: 'worked out' })],
    [
      {
        control: 'amortizeOver',
        key: 'amortizeOver',
        label: 'Spread over, if more',
        reads: 'count',
        optional: true,
        when: bounded,
        hint: ({ amortizeOver }, told) =>
          amortizeOver ? [told.worked('amortizeOver'), told.worked('left')].filter(Boolean).join(', ') : '',
      },
      {
        control: 'balloon',
        key: 'balloon',
        label: 'Or leaving a balloon of',
        reads: 'amount',
        optional: true,
        when: bounded,
        hint: ({ balloon }, told) => (balloon ? amountHint(balloon) || told.worked('left') : ''),
      },
    ],
  ],
  fixed: [[count({ optional: true, empty: 'until cleared' }), payment()], [rises]],
  'equal-principal': [
    [
      count(),
      payment({
        key: 'principal',
        label: 'Principal each time',
        optional: true,
        empty: 'the balance in equal parts',
      }),
    ],
  ],
  'interest-only': [[count()]],
  'no-payment': [
    [count({ label: 'Number of periods' })],
    [{ control: 'unpaid', label: 'Interest meanwhile', choices: unpaidChoices }],
  ],
  custom: [[{ control: 'listed', key: 'payments', label: 'Payments', listed: true }]],
};
