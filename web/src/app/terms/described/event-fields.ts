import type { Field, Row } from '../../fields/field';
import type { DescribedEvent, DescribedEvents } from './described-event';
import {
  drawThenChoices,
  extraThenChoices,
  presentationChoices,
  rateThenChoices,
  renewalEveryChoices,
  treatmentChoices,
} from '../form/choices';
import type { EventType, TypedEvent } from '../form/event-form';
import type { TypedLoan } from '../form/loan-form';

type EventField = Field<TypedEvent>;

const on = (key = 'on'): EventField => ({
  control: 'on',
  key,
  label: 'On',
  reads: 'day',
  placeholder: 'such as 2026-06-15',
});
const amount = (label = 'Amount', key = 'amount'): EventField => ({
  control: 'amount',
  key,
  label,
  reads: 'amount',
});
const rises: EventField = {
  control: 'rises',
  key: 'rises',
  label: 'Rising each year by',
  reads: 'rise',
  optional: true,
  placeholder: 'such as 3% or 100',
};
const rate = (label: string, key: string): EventField => ({ control: 'rate', key, label, reads: 'rate' });
const then = (
  choices: typeof extraThenChoices,
  rest: { key?: string; absent?: string; default?: string },
): EventField => ({
  control: 'then',
  key: 'then',
  label: 'Then the payment',
  choices,
  ...rest,
});
const happens = (type: string, ...rows: Row<TypedEvent>[]): DescribedEvent<TypedEvent> => ({
  list: 'events',
  fixed: { type },
  rows,
});

/** The events of a loan. */
export const loanEventFields: DescribedEvents<EventType, TypedEvent> = {
  extra: happens('extra-principal', [on(), amount()], [then(extraThenChoices, { absent: 'keep' })]),
  'extra-each': {
    ...happens(
      'extra-principal',
      [
        { control: 'from', key: 'from', label: 'From', reads: 'day', optional: true, empty: 'the start' },
        { control: 'to', key: 'to', label: 'To', reads: 'day', optional: true, empty: 'the end' },
      ],
      [amount(), rises],
      [then(extraThenChoices, { absent: 'keep' })],
    ),
    fixed: { type: 'extra-principal', every: 'payment' },
  },
  draw: happens('draw', [on(), amount()], [then(drawThenChoices, { default: 'keep' })]),
  repayment: happens('repayment', [on(), amount()]),
  'rate-step': {
    list: 'rate.steps',
    fixed: {},
    rows: [
      [on('from'), rate('New rate, %', 'annual')],
      [then(rateThenChoices, { key: 'payment', default: 're-level' })],
    ],
  },
  fixing: {
    list: 'rate.index.fixings',
    fixed: {},
    rows: [
      [on(), { control: 'rate', key: 'rate', label: 'Index at, %', reads: 'signed-rate', hint: () => '' }],
    ],
  },
  'payment-change': happens('payment-change', [on(), amount('New payment', 'payment')], [rises]),
  renewal: happens(
    'renewal',
    [on(), rate('New rate, %', 'annual')],
    [
      { control: 'count', key: 'count', label: 'Term, payments', reads: 'count' },
      {
        control: 'amortizeOver',
        key: 'amortizeOver',
        label: 'Spread over, if more',
        reads: 'count',
        optional: true,
      },
    ],
    [
      { control: 'every', key: 'every', label: 'Paid', choices: renewalEveryChoices, absent: 'same' },
      {
        control: 'amount',
        key: 'payment',
        label: 'Payment',
        reads: 'amount',
        optional: true,
        empty: 'worked out',
      },
    ],
  ),
  'interest-added': happens('interest-added', [on()]),
  fee: happens(
    'fee',
    [on(), amount()],
    [
      {
        control: 'treatment',
        key: 'treatment',
        label: 'Booked as',
        choices: treatmentChoices,
        default: 'expense',
      },
    ],
  ),
  settled: happens('settled', [
    on(),
    {
      control: 'amount',
      key: 'amount',
      label: 'Paid, if not what is owed',
      reads: 'amount',
      optional: true,
      empty: 'all that is owed',
    },
  ]),
  'overpayment-returned': happens('overpayment-returned', [on(), amount()]),
  presentation: happens(
    'presentation',
    [on(), { control: 'to', key: 'to', label: 'To, if not for good', reads: 'day', optional: true }],
    [
      { control: 'as', key: 'as', label: 'All of it', choices: presentationChoices },
      { control: 'reason', key: 'reason', label: 'Because of', reads: 'text' },
    ],
  ),
};

/** The same where no payment is agreed: nothing follows for one from a draw or another rate. */
export const lineEventFields: typeof loanEventFields = {
  ...loanEventFields,
  draw: happens('draw', [on(), amount()]),
  'rate-step': { ...loanEventFields['rate-step'], rows: loanEventFields['rate-step'].rows.slice(0, 1) },
};

/** Whether a loan has a payment that stays or is levelled anew: a level or a given one. */
export function hasPayment({ stretches, events }: Pick<TypedLoan, 'stretches' | 'events'>): boolean {
  return (
    stretches.some(({ type }) => type === 'level' || type === 'fixed') ||
    events.some(({ type }) => type === 'renewal')
  );
}

/** The events of a loan as it is paid: without a payment of its own, nothing is asked about one. */
export function eventFieldsOf(loan: Pick<TypedLoan, 'stretches' | 'events'>): typeof loanEventFields {
  return hasPayment(loan) ? loanEventFields : lineEventFields;
}
