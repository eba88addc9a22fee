import { costAmortization, type LoanRow, type LoanSchedule, type MinorUnits } from '@coffer/core';
import { columnsOf } from '../../document/schedule-column.ts';

/** A loan's or a line's schedule, and what is amortized of its costs with each row. */
export interface LoanColumnsOf {
  readonly schedule: LoanSchedule;
  readonly costs: Float64Array;
}

/** What the columns of a schedule are worked out of. */
export function loanColumnsOf(schedule: LoanSchedule): LoanColumnsOf {
  return { schedule, costs: costAmortization(schedule).amortized };
}

const { each, some } = columnsOf<LoanRow, LoanColumnsOf>();
const always = { always: true } as const;
const where = (amount: MinorUnits): MinorUnits | undefined => (amount > 0 ? amount : undefined);

/** The columns of a loan's or a line's schedule. */
export const loanScheduleColumns = [
  each('n', 'No.', 'count', ({ n }) => n, always),
  each('due', 'Due', 'day', ({ n, date, due }) => (n === null ? date : due), always),
  some('paid', 'Paid on', 'day', ({ n, date, due }) => (n !== null && date !== due ? date : undefined)),
  some('event', 'Event', 'text', ({ n, kind }) => (n === null ? kind : undefined)),
  each('opening', 'Opening', 'amount', ({ opening }) => opening, always),
  each('payment', 'Payment', 'amount', ({ payment }) => payment, always),
  each('interest', 'Interest', 'amount', ({ interest }) => interest, always),
  each('principal', principalTitle, 'amount', ({ principal }) => principal, always),
  each('extra', 'Extra', 'amount', ({ extra }) => extra),
  some('drawn', 'Drawn', 'amount', ({ kind, added }) => (kind === 'draw' ? where(added) : undefined)),
  some('addedInterest', 'Added', 'amount', ({ kind, added }) => (kind === 'draw' ? undefined : where(added))),
  each('closing', 'Closing', 'amount', ({ closing }) => closing, always),
  some('unpaidInterest', unpaidTitle, 'amount', ({ unpaid }) => where(unpaid)),
  some('overpaid', 'Overpaid', 'amount', ({ overpaid }) => where(overpaid)),
  some(
    'fee',
    'Unused fee',
    'amount',
    ({ fee }, { schedule }) => (schedule.terms.creditLine ? fee : undefined),
    { before: 'closing' },
  ),
  some('issueCosts', 'Costs', 'amount', ({ index }, { costs }) => costs[index], { before: 'closing' }),
] as const;

/** What is paid of a line at will is repaid; of a loan it is its principal. */
function principalTitle({ schedule }: LoanColumnsOf): string {
  return schedule.terms.creditLine ? 'Repaid' : 'Principal';
}

/** What is unpaid after each row: kept apart by agreement it is deferred, and nobody is late with it. */
function unpaidTitle({ schedule: { unpaid, deferred } }: LoanColumnsOf): string {
  return deferred.some((amount) => amount > 0) && unpaid.every((amount, at) => amount === deferred[at])
    ? 'Deferred'
    : 'Unpaid';
}
