import { addMonths, calendarDay, calendarFields, paymentsPerYear } from '@coffer/core';
import { showDay, showShortMonth } from '@coffer/contract';
import { readDay } from '../../typed/typed-day';
import { eventNames, shortStretchNames, stretchNames } from '../form/choices';
import type { TypedEvent } from '../form/event-form';
import { stretchesInPayments } from '../form/stretch-terms';
import type { TypedLoan } from '../form/loan-form';
import type { LifeSpans, Span, StretchSpan } from './stretch-spans';

/** Something on the timeline: a stretch lies between two days, an event on one. */
export interface TimelineItem extends Span {
  readonly kind: 'stretch' | 'event';
  /** Place among the typed stretches or events. */
  readonly at: number;
  readonly title: string;
  /** The title where there is little room; none where an event has no room for it. */
  readonly short: string;
  readonly detail: string;
  /** Whether its name stands before its mark, for want of room after it. */
  readonly before?: boolean;
  /** Place in the order of lanes, so that events close to each other do not cover one another. */
  readonly lane: number;
}

/** A mark of the axis. */
export interface TimelineTick {
  readonly day: number;
  readonly text: string;
}

/** Everything the timeline draws. */
export interface TimelineModel extends Span {
  readonly stretches: readonly TimelineItem[];
  /** Terms that follow by renewal, each an item of its event. */
  readonly renewed: readonly TimelineItem[];
  readonly events: readonly TimelineItem[];
  readonly ticks: readonly TimelineTick[];
  readonly lanes: number;
}

const fallbackYears = 5;

/**
 * Places what is typed on the loan's life. Spans are where the schedule has the stretches; while it has none, each
 * stretch is as long as its payments take, or a year where they are not counted yet, so that there is always something
 * to take hold of.
 */
export function timelineModel(
  typed: TypedLoan,
  { spans, renewals }: LifeSpans,
  line: boolean,
): TimelineModel | undefined {
  const start = readDay(typed.start);
  if (start === undefined) return undefined;
  const stretches = line ? [] : placedStretches(typed, start, spans);
  const days = typed.events.map(
    (event) => readDay(event.type === 'extra-each' ? event.from : event.on) ?? start,
  );
  const matures = line ? readDay(typed.matures) : undefined;
  const fallback = addMonths(start, 12 * fallbackYears);
  const last = Math.max(
    matures ?? 0,
    spans.at(-1)?.to ?? 0,
    renewals.at(-1)?.to ?? 0,
    stretches.at(-1)?.to ?? 0,
    ...days,
    stretches.length === 0 && spans.length === 0 && matures === undefined ? fallback : 0,
  );
  const to = last + Math.max(20, Math.round((last - start) * 0.02));
  const events = placedEvents(typed, days, start, to);
  return {
    from: start,
    to,
    stretches,
    renewed: renewedTerms(typed, renewals),
    events,
    ticks: ticksBetween(start, to),
    lanes: events.reduce((most, { lane }) => Math.max(most, lane + 1), 1),
  };
}

function placedStretches(typed: TypedLoan, start: number, spans: readonly StretchSpan[]): TimelineItem[] {
  let from = start;
  return stretchesInPayments(typed).map((stretch, at): TimelineItem => {
    const count = stretch.count.trim();
    const span = spans[at] ?? { from, to: from + daysTaken(typed, count) };
    from = span.to;
    const asked = stretch.type === 'custom' ? `${stretch.listed.split('\n').filter(Boolean).length}` : count;
    const detail = asMade(asked, spans[at]);
    const [title, short] = [stretchNames[stretch.type], shortStretchNames[stretch.type]];
    return { kind: 'stretch', at, title, short, detail, lane: 0, from: span.from, to: span.to };
  });
}

/** How many payments a stretch has: those that are made, where it is cleared sooner than was agreed. */
function asMade(asked: string, span: StretchSpan | undefined): string {
  if (!span || !/^\d+$/.test(asked) || span.payments >= Number(asked)) return asked;
  return `${span.payments} of ${asked}`;
}

function renewedTerms(typed: TypedLoan, renewals: LifeSpans['renewals']): TimelineItem[] {
  return renewals.flatMap((span): TimelineItem[] => {
    const { on, from, to } = span;
    const at = typed.events.findIndex((event) => event.type === 'renewal' && readDay(event.on) === on);
    const detail = asMade(typed.events[at]?.count.trim() ?? '', span);
    const title = 'Renewed';
    return at < 0 ? [] : [{ kind: 'event', at, title, short: title, detail, lane: 0, from, to }];
  });
}

/** About how many days so many payments take. */
function daysTaken({ every }: TypedLoan, count: string): number {
  const counted = /^[1-9]\d{0,3}$/.test(count) ? Number(count) : paymentsPerYear[every];
  return Math.round((365.25 * counted) / paymentsPerYear[every]);
}

/** Shares of the whole width that a mark needs for itself, and that each character of its name does. */
const [markShare, characterShare] = [0.012, 0.0068];

function placedEvents(typed: TypedLoan, days: readonly number[], start: number, to: number): TimelineItem[] {
  const width = (to - start) * markShare;
  const free: number[] = [];
  const inOrder = days.map((day, at) => ({ day, at })).sort((a, b) => a.day - b.day);
  const placed = inOrder.map(({ day, at }): TimelineItem => {
    const event = typed.events[at] as TypedEvent;
    let lane = free.findIndex((until) => until <= day);
    if (lane < 0) lane = free.length;
    free[lane] = day + width;
    const until = event.type === 'extra-each' ? (readDay(event.to) ?? day) : day;
    const figure = event.rate ? `${event.rate}%` : event.amount;
    const detail = `${showDay(day)}${figure ? `, ${figure}` : ''}`;
    const title = eventNames[event.type];
    return { kind: 'event', at, title, short: title, detail, from: day, to: until, lane };
  });
  return placed.map((item, place) => {
    const inLane = (other: TimelineItem): boolean => other.lane === item.lane;
    const next = placed.slice(place + 1).find(inLane);
    const last = placed.slice(0, place).findLast(inLane);
    const needed = (to - start) * (markShare + characterShare * item.title.length);
    if (next) return next.from - item.from < needed ? { ...item, short: '' } : item;
    if (to - item.from >= needed) return item;
    // At the end of the life a name has room only before its mark, if the mark before is far enough away.
    return item.from - (last?.from ?? start) < 2 * needed
      ? { ...item, short: '' }
      : { ...item, before: true };
  });
}

/** Years, or every few years, or months of a short life. */
function ticksBetween(from: number, to: number): TimelineTick[] {
  const years = (to - from) / 365.25;
  const months = years <= 1.2 ? 1 : years <= 3 ? 3 : 12 * Math.max(1, Math.ceil(years / 12));
  const { year, month } = calendarFields(from);
  const ticks: TimelineTick[] = [];
  const first = months >= 12 ? calendarDay(year + 1, 1, 1) : calendarDay(year, month, 1);
  for (let day = first; day < to; day = addMonths(day, months)) {
    // A mark at the very end has no room for its words.
    if (day < from || day > to - (to - from) * 0.04) continue;
    ticks.push({
      day,
      text: months >= 12 ? String(calendarFields(day).year) : showShortMonth(day),
    });
  }
  return ticks;
}

/** Where a day lies between two others, in percent. */
export function placeOf({ from, to }: Span, day: number): number {
  return (100 * (Math.min(to, Math.max(from, day)) - from)) / Math.max(1, to - from);
}
