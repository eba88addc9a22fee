import type { CalendarDay } from '../../calendar/calendar-day.ts';
import type { LoanEvent, PaymentChange } from '../terms/loan-events.ts';
import type { Receipt, Receipts } from '../payment/receipts.ts';

/** Something that makes a row of its own when it falls between due dates. */
export interface BetweenEvent {
  readonly kind:
    | 'late-payment'
    | 'early-payment'
    | 'draw'
    | 'interest-added'
    | 'extra'
    | 'settlement'
    | 'overpayment-returned';
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
  'overpayment-returned',
];

/** A loan's dated events in the order in which they take effect, taken one by one. */
export class EventQueue {
  private readonly events: BetweenEvent[] = [];
  private readonly receiptDays: readonly CalendarDay[];
  private readonly settledLastOn: CalendarDay | undefined;
  private at = 0;
  private changeAt = 0;

  constructor(
    events: readonly LoanEvent[],
    private readonly receipts: Receipts,
    private readonly changes: readonly PaymentChange[],
  ) {
    events.forEach((event, at) => {
      const between = betweenEvent(event, at);
      if (between) this.events.push(between);
    });
    for (const { due, early, late } of receipts.byDue.values()) {
      for (const { on, amount } of early) this.events.push(received('early-payment', on, due, amount));
      for (const { on, amount } of late) this.events.push(received('late-payment', on, due, amount));
    }
    // Paid for a day on which nothing falls due: it pays what is owed on its own day, and principal ahead.
    for (const { on, amount } of receipts.unmatched) {
      if (amount > 0) this.events.push(received('late-payment', on, on, amount));
    }
    this.events.sort(inOrderOfDays);
    this.settledLastOn = this.events.find(
      ({ kind, on }, at) => kind === 'settlement' && this.events[at + 1]?.on !== on,
    )?.on;
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

  /** What was paid for a due that never comes up takes its place among the events still to be taken. */
  comesLate({ due, date, amount }: Receipt): void {
    if (amount === 0) return;
    this.events.push(received('late-payment', date, due, amount));
    const ahead = this.events.splice(this.at).sort(inOrderOfDays);
    this.events.push(...ahead);
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

  /** Whether the loan is settled on a day, and nothing else is still to happen on it after that. */
  settlesLast(day: CalendarDay): boolean {
    return this.settledLastOn === day;
  }

  /** Takes the next event unless it is the settlement of the loan. */
  takeBeforeSettlement(): BetweenEvent | undefined {
    return this.events[this.at]?.kind === 'settlement' ? undefined : this.events[this.at++];
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
    case 'overpayment-returned':
      return made('overpayment-returned', event.on, event.amount, false, at);
    default:
      return undefined;
  }
}

function inOrderOfDays(a: BetweenEvent, b: BetweenEvent): number {
  return a.on - b.on || orderOfDay.indexOf(a.kind) - orderOfDay.indexOf(b.kind);
}

function received(
  kind: 'early-payment' | 'late-payment',
  on: CalendarDay,
  due: CalendarDay,
  amount: number,
): BetweenEvent {
  return { kind, on, due, amount, reLevel: false, at: -1 };
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
