import { fieldsOf, type Field, type Row } from '../../fields/field';
import { amountHint } from '../../fields/hints';
import { outsideChoices, unpaidChoices } from '../form/choices';
import type { StretchType, TypedStretch } from '../form/stretch-form';

type StretchField = Field<TypedStretch>;

const term = (rest: Partial<Extract<StretchField, { reads: string }>> = {}): StretchField => ({
  control: 'count',
  key: 'count',
  label: 'Term',
  reads: 'count',
  placeholder: 'such as 7 years',
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

/** How a stretch is typed: how long it is, and what it pays. */
interface DescribedStretch {
  /** None where it is as long as its list. */
  readonly term?: StretchField;
  readonly rows: readonly Row<TypedStretch>[];
}

/** How each type of stretch is typed. */
export const stretchFields: Readonly<Record<StretchType, DescribedStretch>> = {
  level: {
    term: term({ solvable: true }),
    rows: [
      [payment({ solvable: true, optional: true, empty: 'worked out' })],
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
          hint: ({ balloon }, told) =>
            balloon ? [amountHint(balloon), told.worked('left')].filter(Boolean).join(', ') : '',
        },
      ],
    ],
  },
  fixed: { term: term({ optional: true, empty: 'until cleared' }), rows: [[payment(), rises]] },
  'equal-principal': {
    term: term(),
    rows: [
      [
        payment({
          key: 'principal',
          label: 'Principal each time',
          optional: true,
          empty: 'the balance in equal parts',
        }),
      ],
    ],
  },
  'interest-only': { term: term(), rows: [] },
  'no-payment': {
    term: term({ label: 'Periods', placeholder: 'such as 6 or 1 year' }),
    rows: [[{ control: 'unpaid', label: 'Interest meanwhile', choices: unpaidChoices }]],
  },
  seasonal: {
    term: term({ placeholder: 'such as 5 years' }),
    rows: [
      [
        {
          control: 'months',
          key: 'months',
          label: 'Paid in',
          reads: 'text',
          placeholder: 'such as may to sep',
        },
        { control: 'outside', label: 'In other months', choices: outsideChoices },
      ],
      [payment({ label: 'Payment each time', solvable: true, optional: true, empty: 'worked out' })],
    ],
  },
  custom: { rows: [[{ control: 'listed', key: 'payments', label: 'Payments', listed: true }]] },
};

/** All fields of a type of stretch, in order. */
export function fieldsOfStretch(type: StretchType): readonly StretchField[] {
  const { term: first, rows } = stretchFields[type];
  return [...(first ? [first] : []), ...fieldsOf([{ rows }])];
}
