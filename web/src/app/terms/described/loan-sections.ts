import type { Section } from '../../fields/field';
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
import { firstPaymentHint } from './first-payment-hint';

const financed =
  (...as: TypedLoan['financed'][]) =>
  (typed: TypedLoan): boolean =>
    as.includes(typed.financed);
/** Whether some stretch has a payment that amount or rate can be worked out from. */
const solvable = ({ stretches }: TypedLoan): boolean =>
  stretches.some(({ type }) => type !== 'interest-only' && type !== 'no-payment');

/** What is agreed for a loan as a whole. */
export const loanSections: readonly Section<TypedLoan>[] = [
  {
    rows: [
      [
        {
          control: 'class',
          key: 'class',
          label: 'Listed as',
          choices: loanClassChoices,
          default: 'term-loan',
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
        {
          control: 'amount',
          key: 'amount',
          label: inCurrency('Amount'),
          reads: 'amount',
          solvable: true,
          when: financed('amount'),
        },
      ],
      [
        start,
        {
          control: 'first',
          key: 'payments.first',
          label: 'First payment',
          reads: 'day',
          when: ({ due }) => due === 'end',
          hint: firstPaymentHint,
          placeholder: 'such as 2026-07-15',
        },
      ],
      rateAndDays,
      [
        { control: 'every', key: 'payments.every', label: 'Paid', choices: frequencyChoices },
        { control: 'monthEnd', key: 'payments.monthEnd', label: 'On month ends', flag: true },
      ],
      (typed: TypedLoan): string =>
        solvable(typed)
          ? `Type ? for the one figure you do not know: it is worked out from the others.${
              typed.stretches.length > 1 ? ' In several stretches ? is one payment, the same in each.' : ''
            }`
          : 'Only interest is paid, whatever amount and rate are, so give both.',
    ],
  },
  rateAndCompounding([
    {
      control: 'indexPayment',
      key: 'rate.index.payment',
      label: 'Then the',
      choices: rateThenChoices,
      default: 're-level',
      when: floats,
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
    title: 'Costs and rounding',
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
          label: 'Level payment rounded',
          choices: paymentRoundingChoices,
          default: 'cent',
        },
      ],
      [ties],
    ],
  },
];
