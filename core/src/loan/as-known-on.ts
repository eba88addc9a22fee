import type { CalendarDay } from '../calendar/calendar-day.ts';
import { buildLoanSchedule } from './build-loan-schedule.ts';
import type { LoanEvent } from './loan-events.ts';
import type { LoanSchedule } from './loan-schedule.ts';

/**
 * The schedule as its contract stands on a day: without voluntary extras, draws, settlement, renewal and payments
 * recorded later, and without fixings not yet known. Agreed steps of the rate or the payment stay.
 */
export function asKnownOn(schedule: LoanSchedule, on: CalendarDay): LoanSchedule {
  const { terms } = schedule;
  const events = terms.events.flatMap((event) => knownOn(event, on));
  const fixings = terms.index?.fixings.filter((fixing) => fixing.on <= on);
  const same =
    events.length === terms.events.length &&
    events.every((event, at) => event === terms.events[at]) &&
    fixings?.length === terms.index?.fixings.length;
  if (same) return schedule;
  return buildLoanSchedule({
    ...terms,
    events,
    ...(terms.index && fixings && { index: { ...terms.index, fixings } }),
  });
}

function knownOn(event: LoanEvent, on: CalendarDay): LoanEvent[] {
  if (event.type === 'payment-change') return [event];
  if (event.type !== 'extra-each-payment') return event.on <= on ? [event] : [];
  if (event.from > on) return [];
  return [event.to <= on ? event : { ...event, to: on }];
}
