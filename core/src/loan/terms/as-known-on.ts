import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { factsByKey } from '../../facts/facts.ts';
import { BeyondExact } from '../../faults/beyond-exact.ts';
import { TermsFault } from '../../faults/terms-fault.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import { billsThrough, openLineEnds } from '../../credit-line/credit-line-bills.ts';
import { eventDay, eventsOf, type LoanEvent } from './loan-events.ts';
import type { LoanSchedule } from '../schedule/loan-schedule.ts';
import type { LoanTerms } from './loan-terms.ts';
import { dueNamed } from '../payment/receipts.ts';

/**
 * The schedule as its contract stands on a day: without what happened or was agreed later. What fell due by the day and
 * was paid after it counts as not paid, as a payment recorded as missed does; voluntary extras, draws, settlement,
 * renewal, changes of the payment and fixings count from their day on. Steps of the rate and stretches are agreed from
 * the start. Source: IAS 1.76 (what happens after the period does not change how debt is presented at its end);
 * ASC 470-10-45.
 */
export function asKnownOn(
  schedule: LoanSchedule,
  on: CalendarDay,
  regularExtra: RegularExtra = 'paid',
): LoanSchedule {
  return onDays(schedule, `${on} ${regularExtra}`, () => knownOn(schedule, on, regularExtra));
}

function knownOn(schedule: LoanSchedule, on: CalendarDay, regularExtra: RegularExtra): LoanSchedule {
  const { terms } = schedule;
  const events = eventsKnownOn(schedule, on, regularExtra);
  const fixings = terms.index?.fixings.filter((fixing) => fixing.on <= on);
  const phases = phasesKnownOn(terms, on);
  const same =
    phases === terms.phases &&
    events.length === terms.events.length &&
    events.every((event, at) => event === terms.events[at]) &&
    fixings?.length === terms.index?.fixings.length;
  if (same) return schedule;
  const known = {
    ...terms,
    phases,
    events,
    ...(terms.index && fixings && { index: { ...terms.index, fixings } }),
  };
  return ofKnowledge(schedule, knowledge(schedule, on, regularExtra), () => {
    try {
      return buildLoanSchedule(known);
    } catch (error) {
      if (!(error instanceof TermsFault || error instanceof BeyondExact)) throw error;
      // What was agreed then never repaid by itself: with what was agreed next it may, and nothing later counts.
      const next = nextNews(terms, on);
      return next === undefined ? schedule : asKnownOn(schedule, next, regularExtra);
    }
  });
}

/**
 * Regular extra principal that has begun: as far as it is paid, which is all that is contractual, or as it is expected
 * to go on.
 */
export type RegularExtra = 'paid' | 'going-on';

/** Events that move no row: where only these are still to come, the schedule is as it is. */
const besideTheRows: readonly LoanEvent['type'][] = ['fee', 'presentation'];

/** The next day after one on which something is agreed, happens or is fixed. */
function nextNews({ events, index }: LoanTerms, on: CalendarDay): CalendarDay | undefined {
  const moving = events.filter(({ type }) => !besideTheRows.includes(type)).map(eventDay);
  const later = [...moving, ...(index?.fixings ?? []).map((fixing) => fixing.on)].filter((day) => day > on);
  return later.length === 0 ? undefined : later.reduce((first, day) => Math.min(first, day));
}

/** A line without a maturity is billed for a year after the last event that is known. */
function phasesKnownOn(
  { phases, creditLine, atEnd, start, first, events }: LoanTerms,
  on: CalendarDay,
): LoanTerms['phases'] {
  const [phase] = phases;
  if (!creditLine || atEnd === 'pay' || phase?.type !== 'interest-only') return phases;
  const days = events.map(eventDay).filter((day) => day <= on);
  const { count } = billsThrough(first, openLineEnds(start, days));
  return count >= phase.count ? phases : [{ ...phase, count }];
}

function eventsKnownOn(
  { terms, stretches }: LoanSchedule,
  on: CalendarDay,
  regularExtra: RegularExtra,
): LoanEvent[] {
  const events = terms.events.flatMap((event): LoanEvent[] => {
    if (besideTheRows.includes(event.type)) return [event];
    if (event.type !== 'extra-each-payment') return eventDay(event) <= on ? [event] : [];
    if (event.from > on) return [];
    return [event.to <= on || regularExtra === 'going-on' ? event : { ...event, to: on }];
  });
  const paidBy = new Set(eventsOf(events, 'paid').map(({ due }) => dueNamed(stretches, due)));
  for (const payment of eventsOf(terms.events, 'paid')) {
    if (payment.on <= on) continue;
    const due = dueNamed(stretches, payment.due);
    if (due === undefined || due > on || paidBy.has(due)) continue;
    paidBy.add(due);
    events.push({ type: 'paid', due, on: due, amount: 0 });
  }
  return events;
}

/** What is known on a day, told apart from what is known on others. */
function knowledge({ terms, stretches }: LoanSchedule, on: CalendarDay, regularExtra: RegularExtra): string {
  const bills = phasesKnownOn(terms, on)[0];
  const known = terms.events.map((event) => {
    if (besideTheRows.includes(event.type)) return '';
    if (event.type === 'extra-each-payment' && event.from <= on) {
      return event.to <= on || regularExtra === 'going-on' ? 1 : on;
    }
    if (eventDay(event) <= on) return 1;
    return event.type === 'paid' && (dueNamed(stretches, event.due) ?? Infinity) <= on ? 2 : 0;
  });
  const count = bills?.type === 'interest-only' ? bills.count : 0;
  return `${known.join()} ${count} ${terms.index?.fixings.filter((fixing) => fixing.on <= on).length ?? 0}`;
}

/** Several figures of one day, and of days between which nothing happens, ask for the same. */
const mostRemembered = 16;
const onDays = factsByKey<LoanSchedule, LoanSchedule>(mostRemembered);
const ofKnowledge = factsByKey<LoanSchedule, LoanSchedule>(mostRemembered);
