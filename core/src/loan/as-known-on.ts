import type { CalendarDay } from '../calendar/calendar-day.ts';
import { TermsFault } from '../terms-fault.ts';
import { buildLoanSchedule } from './build-loan-schedule.ts';
import { eventDay, type LoanEvent } from './loan-events.ts';
import type { LoanTerms } from './loan-terms.ts';
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
  const known = { ...terms, events, ...(terms.index && fixings && { index: { ...terms.index, fixings } }) };
  return remembered(schedule, knowledge(terms, on), () => {
    try {
      return buildLoanSchedule(known);
    } catch (error) {
      // What was agreed then never repaid by itself; the schedule as it is now stands in for it.
      if (error instanceof TermsFault || error instanceof RangeError) return schedule;
      throw error;
    }
  });
}

/** What is known on a day, told apart from what is known on others. */
function knowledge({ events, index }: LoanTerms, on: CalendarDay): string {
  const known = events.map((event) =>
    event.type === 'extra-each-payment' ? Math.min(event.to, on) : eventDay(event) <= on ? 1 : 0,
  );
  return `${known.join()} ${index?.fixings.filter((fixing) => fixing.on <= on).length ?? 0}`;
}

/** Several figures of one day, and of days between which nothing happens, ask for the same. */
const knownOf = new WeakMap<LoanSchedule, Map<string, LoanSchedule>>();
const mostRemembered = 16;

function remembered(schedule: LoanSchedule, key: string, work: () => LoanSchedule): LoanSchedule {
  let known = knownOf.get(schedule);
  if (!known) knownOf.set(schedule, (known = new Map<string, LoanSchedule>()));
  let found = known.get(key);
  if (!found) {
    if (known.size >= mostRemembered) known.clear();
    known.set(key, (found = work()));
  }
  return found;
}

function knownOn(event: LoanEvent, on: CalendarDay): LoanEvent[] {
  if (event.type === 'payment-change') return [event];
  if (event.type !== 'extra-each-payment') return event.on <= on ? [event] : [];
  if (event.from > on) return [];
  return [event.to <= on ? event : { ...event, to: on }];
}
