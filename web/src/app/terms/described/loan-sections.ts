import { currencyDigits, parseAmount } from '@coffer/core';
import { showAmount } from '@coffer/contract';
import type { Section, Told } from '../../fields/field';
import { readNumber } from '../../typed/typed-number';
import { amountHint, partHint } from '../../fields/hints';
import {
  atEndChoices,
  costsMethodChoices,
  dueChoices,
  financedChoices,
  frequencyChoices,
  loanClassChoices,
  paymentRoundingChoices,
  rateThenChoices,
} from '../form/choices';
import type { TypedLoan } from '../form/loan-form';
import {
  closedDays,
  inCurrency,
  floats,
  start,
  rateAndDays,
  rateAndCompounding,
  costs,
  interestRounding,
  ties,
} from './borrowed-sections';
import { firstPaymentHint, mayKeepMonthEnds } from '../form/first-payment';
import { hasPayment } from './event-fields';

const financed =
  (...as: TypedLoan['financed'][]) =>
  (typed: TypedLoan): boolean =>
    as.includes(typed.financed);
/** Whether some stretch has a payment that amount or rate can be worked out from. */
const solvable = ({ stretches }: TypedLoan): boolean =>
  stretches.some(({ type }) => type !== 'interest-only' && type !== 'no-payment');

/** Whether a draw comes after the start. */
const drawn = ({ events }: TypedLoan): boolean => events.some(({ type }) => type === 'draw');

/** What is lent in all, where draws follow what is lent at the start. */
function lentInAll(typed: TypedLoan, { currency }: Told): string {
  const said = amountHint(typed.amount);
  const digits = currencyDigits(currency);
  const amounts = [
    typed.amount,
    ...typed.events.flatMap(({ type, amount }) => (type === 'draw' ? [amount] : [])),
  ];
  const minors = amounts.map((each) => parseAmount(readNumber(each) ?? '', digits ?? 2));
  if (!drawn(typed) || minors.some((minor) => minor === undefined)) return said;
  const sum = minors.reduce<number>((total, minor) => total + (minor ?? 0), 0);
  return `${said === '' ? '' : `${said}; `}${showAmount(sum, digits ?? 2)} with the draws`;
}

/** What is agreed for a loan as a whole, in the order in which agreements say it. */
const agreed: Section<TypedLoan> = {
  rows: [
    [
      {
        control: 'amount',
        key: 'amount',
        label: (typed, told) => inCurrency(drawn(typed) ? 'Drawn at the start' : 'Amount')(typed, told),
        reads: 'amount',
        solvable: true,
        when: financed('amount'),
        hint: (typed, told) => (typed.amount.trim() === '?' ? told.worked('amount') : lentInAll(typed, told)),
      },
      { control: 'financed', label: 'What it financed', choices: financedChoices, faults: ['takenOn'] },
    ],
    [
      {
        control: 'price',
        key: 'purchase.price',
        label: inCurrency('Price'),
        reads: 'amount',
        when: financed('purchase'),
      },
      {
        control: 'downPayment',
        label: inCurrency('Down payment'),
        reads: 'amount',
        when: financed('purchase'),
        faults: ['purchase.downPayment'],
        hint: ({ downPayment, price }, { currency }) =>
          partHint(downPayment, price, currency) || amountHint(downPayment),
      },
    ],
    [
      {
        control: 'amount',
        key: 'amount',
        label: inCurrency('Balance at the start'),
        reads: 'amount',
        solvable: true,
        when: financed('taken-on'),
      },
      {
        control: 'accrued',
        key: 'takenOn.accruedInterest',
        label: 'Interest accrued by then',
        reads: 'amount',
        when: financed('taken-on'),
      },
    ],
    [
      start,
      {
        control: 'first',
        key: 'payments.first',
        label: ({ stretches }) =>
          stretches[0]?.type === 'no-payment' ? 'First period ends' : 'First payment',
        reads: 'day',
        optional: true,
        when: ({ due }) => due === 'end',
        hint: firstPaymentHint,
        placeholder: 'such as 2026-07-15',
      },
    ],
    [
      {
        control: 'monthEnd',
        key: 'payments.monthEnd',
        label: 'On month ends',
        flag: true,
        when: (typed) => typed.monthEnd || mayKeepMonthEnds(typed),
      },
    ],
    rateAndDays,
  ],
};

/** How often is paid. */
export const paid: Section<TypedLoan> = {
  rows: [[{ control: 'every', key: 'payments.every', label: 'Paid', choices: frequencyChoices }]],
};

/** What may be left open. */
export const unknowns: Section<TypedLoan> = {
  rows: [
    (typed: TypedLoan): string =>
      solvable(typed)
        ? `Type ? for the one figure you do not know: it is worked out from the others.${
            typed.stretches.length > 1 ? ' In several stretches ? is one payment, the same in each.' : ''
          }`
        : 'Only interest is paid, whatever amount and rate are, so give both.',
  ],
};

/** What an agreement says besides. */
const details: readonly Section<TypedLoan>[] = [
  rateAndCompounding([
    {
      control: 'indexPayment',
      key: 'rate.index.payment',
      label: 'Then the payment',
      choices: rateThenChoices,
      default: 're-level',
      when: (typed) => floats(typed) && hasPayment(typed),
    },
  ]),
  {
    title: 'Dates and business days',
    rows: [
      [
        {
          control: 'due',
          key: 'payments.due',
          label: 'Payments fall due',
          choices: dueChoices,
          absent: 'end',
        },
      ],
      [
        {
          control: 'last',
          key: 'payments.last',
          label: 'Last payment, if on a day of its own',
          reads: 'day',
          optional: true,
        },
      ],
      [
        {
          control: 'atEnd',
          key: 'payments.atEnd',
          label: 'A balance left at the end',
          choices: atEndChoices,
          absent: 'pay',
        },
      ],
      ...closedDays('payments.businessDays'),
    ],
  },
  {
    title: 'Costs, rounding and class',
    open: ({ costs: typed, class: listed }) => typed.trim() !== '' || listed !== 'term-loan',
    rows: [
      [
        costs,
        {
          control: 'costsMethod',
          key: 'issueCosts.method',
          label: 'Amortized',
          choices: costsMethodChoices,
          default: 'effective',
        },
      ],
      [
        interestRounding,
        {
          control: 'paymentRounding',
          key: 'rounding.payment',
          label: 'Payment rounded',
          choices: paymentRoundingChoices,
          default: 'cent',
        },
      ],
      [
        ties,
        {
          control: 'class',
          key: 'class',
          label: 'Listed as',
          choices: loanClassChoices,
          default: 'term-loan',
        },
      ],
    ],
  },
];

/** All that is asked of a loan as a whole: before its payments, of them, and after them. */
export const loanFields = { agreed: [agreed], paid: [paid], details } as const;
export const loanSections: readonly Section<TypedLoan>[] = [agreed, paid, ...details];
