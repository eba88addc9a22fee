import {
  costAmortization,
  formatAmount,
  formatDay,
  type LoanRow,
  type LoanSchedule,
  type MinorUnits,
} from '@coffer/core';
import type { ScheduleColumn } from '../../document/schedule-column.ts';

/** The columns of a loan's or a line's schedule. */
export function loanScheduleColumns(schedule: LoanSchedule): readonly ScheduleColumn<LoanRow>[] {
  const { terms } = schedule;
  const money = (minor: MinorUnits): string => formatAmount(minor, terms.digits);
  const some = (minor: MinorUnits): string | undefined => (minor > 0 ? money(minor) : undefined);
  const costs = costAmortization(schedule).amortized;
  const amount = (
    key: string,
    title: string,
    value: (row: LoanRow) => string | undefined,
    more: Pick<ScheduleColumn<LoanRow>, 'always' | 'before'> = {},
  ): ScheduleColumn<LoanRow> => ({ key, title, type: 'amount', value, ...more });
  const always = { always: true } as const;
  return [
    { key: 'n', title: 'No.', type: 'count', value: ({ n }) => n, ...always },
    {
      key: 'due',
      title: 'Due',
      type: 'day',
      value: ({ n, date, due }) => formatDay(n === null ? date : due),
      ...always,
    },
    {
      key: 'paid',
      title: 'Paid on',
      type: 'day',
      value: ({ n, date, due }) => (n !== null && date !== due ? formatDay(date) : undefined),
    },
    { key: 'event', title: 'Event', type: 'text', value: ({ n, kind }) => (n === null ? kind : undefined) },
    amount('opening', 'Opening', ({ opening }) => money(opening), always),
    amount('payment', 'Payment', ({ payment }) => money(payment), always),
    amount('interest', 'Interest', ({ interest }) => money(interest), always),
    amount(
      'principal',
      terms.creditLine ? 'Repaid' : 'Principal',
      ({ principal }) => money(principal),
      always,
    ),
    amount('extra', 'Extra', ({ extra }) => money(extra)),
    amount('drawn', 'Drawn', ({ kind, added }) => (kind === 'draw' ? some(added) : undefined)),
    amount('addedInterest', 'Added', ({ kind, added }) => (kind === 'draw' ? undefined : some(added))),
    amount('closing', 'Closing', ({ closing }) => money(closing), always),
    amount('unpaidInterest', unpaidTitle(schedule), ({ unpaid }) => some(unpaid)),
    amount('overpaid', 'Overpaid', ({ overpaid }) => some(overpaid)),
    ...(terms.creditLine
      ? [amount('fee', 'Unused fee', ({ fee }) => money(fee), { before: 'closing' })]
      : []),
    amount(
      'issueCosts',
      'Costs',
      ({ index }) => {
        const part = costs[index];
        return part === undefined ? undefined : money(part);
      },
      { before: 'closing' },
    ),
  ];
}

/** What is unpaid after each row: kept apart by agreement it is deferred, and nobody is late with it. */
function unpaidTitle({ unpaid, deferred }: LoanSchedule): string {
  return deferred.some((amount) => amount > 0) && unpaid.every((amount, at) => amount === deferred[at])
    ? 'Deferred'
    : 'Unpaid';
}
