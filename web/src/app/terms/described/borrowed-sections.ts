import { indexKey } from '@coffer/contract';
import type { Field, Row, Section, Told } from '../../fields/field';
import {
  accrualChoices,
  calendarChoices,
  compoundingChoices,
  dayCountChoices,
  interestRoundingChoices,
  movingChoices,
  resetChoices,
  tiesChoices,
} from '../form/choices';
import type { TypedLoan } from '../form/loan-form';

type LoanField = Field<TypedLoan>;
type LoanRow = Row<TypedLoan>;

/** A label that names the currency. */
export const inCurrency =
  (label: string) =>
  (_typed: TypedLoan, { currency }: Told): string =>
    `${label}, ${currency}`;
/** Whether the rate follows an index. */
export const floats = ({ floating }: TypedLoan): boolean => floating;
const moves = ({ moving }: TypedLoan): boolean => moving !== 'none';

/** What is known of the index that is typed. */
const indexHint = ({ indexName }: TypedLoan, { indexes }: Told): string =>
  indexes?.find(({ name }) => indexKey(name) === indexKey(indexName))?.last ?? '';

/** The first day. */
export const start: LoanField = {
  control: 'start',
  key: 'start',
  label: 'Start',
  reads: 'day',
  placeholder: 'such as 2026-06-15',
};

/** The agreed rate and how its days are counted. */
export const rateAndDays: LoanRow = [
  { control: 'rate', key: 'rate.annual', label: 'Annual rate, %', reads: 'rate', solvable: true },
  {
    control: 'dayCount',
    key: 'rate.dayCount',
    label: 'Days',
    choices: dayCountChoices,
    default: 'even-periods',
  },
];

/** What a rate follows and how interest compounds; a payment of the borrower's own may follow a new rate. */
export const rateAndCompounding = (payment: readonly LoanField[]): Section<TypedLoan> => ({
  title: 'Rate and compounding',
  open: floats,
  rows: [
    [
      {
        control: 'compounding',
        key: 'rate.compounding',
        label: 'Interest compounds',
        choices: compoundingChoices,
        absent: 'each-payment',
      },
    ],
    [{ control: 'floating', label: 'Follows an index', flag: true }],
    [
      {
        control: 'indexName',
        key: 'rate.index.name',
        label: 'Index',
        reads: 'text',
        optional: true,
        when: floats,
        placeholder: 'its agreed name',
        offers: ({ indexes }) => (indexes ?? []).map(({ name }) => name),
        hint: indexHint,
      },
      {
        control: 'margin',
        key: 'rate.index.margin',
        label: 'Margin, %',
        reads: 'signed-rate',
        optional: true,
        when: floats,
      },
    ],
    [
      {
        control: 'floor',
        key: 'rate.index.floor',
        label: 'Floor of the rate, %',
        reads: 'signed-rate',
        optional: true,
        when: floats,
        empty: 'zero, index and margin together',
      },
      {
        control: 'cap',
        key: 'rate.index.cap',
        label: 'Cap of the rate, %',
        reads: 'signed-rate',
        optional: true,
        when: floats,
        empty: 'none, index and margin together',
      },
    ],
    [
      {
        control: 'resetEvery',
        key: 'rate.index.resetEvery',
        label: 'Set anew',
        choices: resetChoices,
        absent: 'none',
        when: floats,
      },
      ...payment,
    ],
    ({ floating }) =>
      floating
        ? 'What the company keeps of the index is taken over as the instrument is taken on; other fixings are entered as events. The annual rate above holds until the first one.'
        : '',
  ],
});

/** What becomes of due dates on closed days; `where` is the document's key of the rule. */
export const closedDays = (where: string): LoanRow[] => [
  [
    {
      control: 'moving',
      key: `${where}.rule`,
      label: 'Due dates on closed days',
      choices: movingChoices,
      absent: 'none',
    },
  ],
  [
    {
      control: 'calendar',
      key: `${where}.calendar`,
      label: 'Calendar',
      choices: calendarChoices,
      default: 'TARGET',
      when: moves,
    },
    {
      control: 'accrual',
      key: `${where}.accrual`,
      label: 'Interest runs',
      choices: accrualChoices,
      default: 'unmoved',
      when: moves,
    },
  ],
  [
    {
      control: 'closed',
      key: `${where}.closed`,
      label: 'Closed besides',
      reads: 'days',
      optional: true,
      when: moves,
      placeholder: 'such as 2026-12-24, 2026-12-31',
      offers: ({ closedDays: ofCompany }) => (ofCompany ? [ofCompany] : []),
      hint: ({ closed }, { closedDays: ofCompany }) =>
        closed.trim() === '' && ofCompany ? 'The company’s closed days are offered here.' : '',
    },
  ],
];

/** Costs of the borrowing. */
export const costs: LoanField = {
  control: 'costs',
  key: 'issueCosts.amount',
  label: inCurrency('Costs of the loan'),
  reads: 'amount',
  optional: true,
};
/** How interest is rounded. */
export const interestRounding: LoanField = {
  control: 'interestRounding',
  key: 'rounding.interest',
  label: 'Interest rounded',
  choices: interestRoundingChoices,
  default: 'cent',
};
/** Where halves go. */
export const ties: LoanField = {
  control: 'ties',
  key: 'rounding.ties',
  label: 'Halves',
  choices: tiesChoices,
  default: 'away-from-zero',
};
