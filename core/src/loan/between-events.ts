import type { CalendarDay } from '../calendar/calendar-day.ts';
import type { LoanEvent, PaymentChange, RecordedPayment } from './loan-events.ts';

/** Something that makes a row of its own when it falls between due dates. */
export interface BetweenEvent {
  readonly kind: 'late-payment' | 'draw' | 'interest-added' | 'extra' | 'settlement';
  readonly on: CalendarDay;
  readonly due: CalendarDay;
  readonly amount: number;
  /** Whether the payment is levelled anew afterwards. */
  readonly reLevel: boolean;
  /** Place among the terms' events. */
  readonly at: number;
}

/** What comes first on one day: what was paid, what was drawn or added, extra principal, settlement. */
const orderOfDay: readonly BetweenEvent['kind'][] = [
  'late-payment',
  'draw',
  'interest-added',
  'extra',
  'settlement',
];

/** A loan's dated events in the order in which they take effect, taken one by one. */
export class EventQueue {
  private readonly events: BetweenEvent[] = [];
  private readonly changes: readonly PaymentChange[];
  private readonly recordedByDue = new Map<CalendarDay, RecordedPayment>();
  private at = 0;
  private changeAt = 0;

  constructor(events: readonly LoanEvent[]) {
    events.forEach((event, at) => {
      const between = betweenEvent(event, at);
      if (between) this.events.push(between);
      if (event.type === 'paid') this.recordedByDue.set(event.due, event);
    });
    this.events.sort((a, b) => a.on - b.on || orderOfDay.indexOf(a.kind) - orderOfDay.indexOf(b.kind));
    this.changes = events
      .filter((event): event is PaymentChange => event.type === 'payment-change')
      .sort((a, b) => a.on - b.on);
  }

  /** Events that may make a row of their own. */
  get count(): number {
    return this.events.length;
  }

  /** What was recorded for the payment due on a day, whether or not it moved to a business day. */
  recorded(due: CalendarDay, unmoved: CalendarDay): RecordedPayment | undefined {
    return this.recordedByDue.get(due) ?? this.recordedByDue.get(unmoved);
  }

  /** Takes the next event before a day; a late payment on the day itself also comes before that day's row. */
  takeBefore(day: CalendarDay): BetweenEvent | undefined {
    const next = this.events[this.at];
    if (!next || next.on > day || (next.on === day && next.kind !== 'late-payment')) return undefined;
    this.at += 1;
    return next;
  }

  /** Takes the next event on or before a day. */
  takeThrough(day: CalendarDay): BetweenEvent | undefined {
    const next = this.events[this.at];
    if (!next || next.on > day) return undefined;
    this.at += 1;
    return next;
  }

  /** Whether the loan is settled on a day. */
  settlesOn(day: CalendarDay): boolean {
    return this.events.some((event) => event.kind === 'settlement' && event.on === day);
  }

  /** Takes the changes of the payment that apply from a due date on; the last of them counts. */
  takeChange(due: CalendarDay): PaymentChange | undefined {
    let found: PaymentChange | undefined;
    for (; (this.changes[this.changeAt]?.on ?? Infinity) <= due; this.changeAt += 1) {
      found = this.changes[this.changeAt];
    }
    return found;
  }

  /** First day from which rows may differ from the plain schedule, looking from now on. */
  nextDay(from: CalendarDay): CalendarDay {
    const farthest = Number.MAX_SAFE_INTEGER;
    let day = Math.min(this.events[this.at]?.on ?? farthest, this.changes[this.changeAt]?.on ?? farthest);
    for (const { due, on } of this.recordedByDue.values()) {
      const first = Math.min(due, on);
      if (first >= from && first < day) day = first;
      // A payment due on a day that is not a business day may be recorded for the day it was moved from.
      if (due >= from - 10 && due < day) day = due;
    }
    return day;
  }
}

function betweenEvent(event: LoanEvent, at: number): BetweenEvent | undefined {
  switch (event.type) {
    case 'extra-principal':
      return made('extra', event.on, event.amount, event.then === 're-level', at);
    case 'draw':
      return made('draw', event.on, event.amount, event.then === 're-level', at);
    case 'interest-added':
      return made('interest-added', event.on, 0, false, at);
    case 'settled':
      return made('settlement', event.on, event.amount ?? 0, false, at);
    case 'paid':
      if (event.on <= event.due || event.amount === 0) return undefined;
      return { ...made('late-payment', event.on, event.amount, false, at), due: event.due };
    default:
      return undefined;
  }
}

function made(
  kind: BetweenEvent['kind'],
  on: CalendarDay,
  amount: number,
  reLevel: boolean,
  at: number,
): BetweenEvent {
  return { kind, on, due: on, amount, reLevel, at };
}
