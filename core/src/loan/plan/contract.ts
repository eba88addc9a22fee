import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import { lastRowOn, type LoanSchedule } from '../schedule/loan-schedule.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import type { Count, MinorUnits } from '../../units/units.ts';

/** A payment that the contract asks for after the day that a plan starts from. */
export interface ContractDue {
  /** The due date, as the schedule names it. */
  readonly due: CalendarDay;
  /** The day that it is paid on. */
  readonly on: CalendarDay;
  /** Minor units. */
  readonly amount: MinorUnits;
}

/** What a loan asks for after a day, without what is only meant to be paid beyond it. Minor units. */
export interface Contract {
  readonly schedule: LoanSchedule;
  readonly on: CalendarDay;
  readonly balance: MinorUnits;
  /** Interest charged and not paid by the end of the day. */
  readonly unpaid: MinorUnits;
  /** In order; recorded payments of days to come are facts, and not among them. */
  readonly dues: readonly ContractDue[];
}

/**
 * The contract of a loan after a day: the schedule as it is, without voluntary extra principal after the day.
 *
 * @example
 * contractAfter(loan, day('2025-06-30')).dues.length // 7
 */
export function contractAfter(schedule: LoanSchedule, on: CalendarDay): Contract {
  const { terms } = schedule;
  const events = terms.events.flatMap((event) => withoutVoluntary(event, on));
  const same =
    events.length === terms.events.length && events.every((event, at) => event === terms.events[at]);
  const contract = same ? schedule : buildLoanSchedule({ ...terms, events });
  const { length, n, due, date, payment, closing, unpaid, receipts } = contract;
  const row = lastRowOn(date, length, on);
  const dues: ContractDue[] = [];
  for (let at = row + 1; at < length; at += 1) {
    if ((n[at] as number) === 0 || receipts.byDue.has(due[at] as number)) continue;
    dues.push({ due: due[at] as number, on: date[at] as number, amount: payment[at] as number });
  }
  const begun = on >= terms.start;
  return {
    schedule: contract,
    on,
    balance: row < 0 ? (begun ? terms.amount : 0) : (closing[row] as number),
    unpaid: row < 0 ? 0 : (unpaid[row] as number),
    dues,
  };
}

function withoutVoluntary(event: LoanEvent, on: CalendarDay): LoanEvent[] {
  if (event.type === 'extra-principal') return event.on > on ? [] : [event];
  if (event.type !== 'extra-each-payment' || event.to <= on) return [event];
  return event.from > on ? [] : [{ ...event, to: on }];
}

/** How many of a contract's dues fall on or before a day. */
export function duesBy({ dues }: Pick<Contract, 'dues'>, day: CalendarDay): Count {
  let many = 0;
  while (many < dues.length && (dues[many]?.on ?? Infinity) <= day) many += 1;
  return many;
}
