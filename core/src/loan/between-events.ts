import type { CalendarDay } from '../calendar/calendar-day.ts';
import type { LoanEvent, PaymentChange } from './loan-events.ts';
import type { Receipts } from './receipts.ts';

/** Something that makes a row of its own when it falls between due dates. */
export interface BetweenEvent {
  readonly kind: 'late-payment' | 'early-payment' | 'draw' | 'interest-added' | 'extra' | 'settlement';
  readonly on: CalendarDay;
  readonly due: CalendarDay;
  readonly amount: number;
  /** Whether the payment is levelled anew afterwards. */
  readonly reLevel: boolean;
  /** Place among the terms' events; −1 for payments recorded. */
  readonly at: number;
}

/** What comes first on one day: what was paid, what was drawn or added, extra principal, settlement. */
const orderOfDay: readonly BetweenEvent['kind'][] = [
  'late-payment',
  'early-payment',
  'draw',
  'interest-added',
  'extra',
  'settlement',
];

/** A loan's dated events in the order in which they take effect, taken one by one. */
export class EventQueue {
  private readonly events: BetweenEvent[] = [];
  private readonly changes: readonly PaymentChange[];
  private readonly receiptDays: readonly CalendarDay[];
  private readonly settledOn: CalendarDay | undefined;
  private at = 0;
  private changeAt = 0;

  constructor(
    events: readonly LoanEvent[],
    private readonly receipts: Receipts,
  ) {
    events.forEach((event, at) => {
      const between = betweenEvent(event, at);
      if (between) this.events.push(between);
    });
    for (const { due, early, late } of receipts.byDue.values()) {
      const made = (kind: 'early-payment' | 'late-payment', on: CalendarDay, amount: number): void => {
        this.events.push({ kind, on, due, amount, reLevel: false, at: -1 });
      };
      for (const { on, amount } of early) made('early-payment', on, amount);
      for (const { on, amount } of late) made('late-payment', on, amount);
    }
    this.events.sort((a, b) => a.on - b.on || orderOfDay.indexOf(a.kind) - orderOfDay.indexOf(b.kind));
    this.changes = events
      .filter((event): event is PaymentChange => event.type === 'payment-change')
      .sort((a, b) => a.on - b.on);
    this.settledOn = this.events.find(({ kind }) => kind === 'settlement')?.on;
    this.receiptDays = [...receipts.byDue.values()].map(({ date }) => date).sort((a, b) => a - b);
  }

  /** Events that may make a row of their own. */
  get count(): number {
    return this.events.length;
  }

  /** What was recorded for the payment due on a day. */
  receipt(due: CalendarDay): ReturnType<Receipts['byDue']['get']> {
    return this.receipts.byDue.get(due);
  }

  /** The next event before a day; a late payment on the day itself also comes before that day's row. */
  peekBefore(day: CalendarDay): BetweenEvent | undefined {
    const next = this.events[this.at];
    return !next || next.on > day || (next.on === day && next.kind !== 'late-payment') ? undefined : next;
  }

  /** Takes the next event. */
  take(): void {
    this.at += 1;
  }

  /** Takes the next event on or before a day. */
  takeThrough(day: CalendarDay): BetweenEvent | undefined {
    const next = this.events[this.at];
    if (!next || next.on > day) return undefined;
    this.at += 1;
    return next;
  }

  /** The day of the next event not yet taken. */
  get nextOn(): CalendarDay {
    return this.events[this.at]?.on ?? Number.MAX_SAFE_INTEGER;
  }

  /** Whether the loan is settled on a day. */
  settlesOn(day: CalendarDay): boolean {
    return this.settledOn === day;
  }

  /** Takes the next change of the payment agreed from a day or before. */
  takeChange(through: CalendarDay): PaymentChange | undefined {
    const next = this.changes[this.changeAt];
    if (!next || next.on > through) return undefined;
    this.changeAt += 1;
    return next;
  }

  /** The day of the next change of the payment not yet taken. */
  get nextChangeOn(): CalendarDay {
    return this.changes[this.changeAt]?.on ?? Number.MAX_SAFE_INTEGER;
  }

  /** First day from which rows may differ from the plain schedule, looking from now on. */
  nextDay(from: CalendarDay): CalendarDay {
    const receipt = this.receiptDays.find((day) => day >= from) ?? Number.MAX_SAFE_INTEGER;
    return Math.min(this.nextOn, this.nextChangeOn, receipt);
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
