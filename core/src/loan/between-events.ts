import type { CalendarDay } from '../calendar/calendar-day.ts';
import type { LoanTerms, RecordedPayment } from './loan-terms.ts';

/** Something that may fall between due dates: extra principal, or a payment that came after its due date. */
export interface BetweenEvent {
  readonly kind: 'extra' | 'late';
  readonly on: CalendarDay;
  readonly due: CalendarDay;
  readonly amount: number;
}

/** A loan's dated events in the order in which they take effect, taken one by one. */
export class EventQueue {
  private readonly events: BetweenEvent[];
  private readonly recordedByDue: ReadonlyMap<CalendarDay, RecordedPayment>;
  private at = 0;

  constructor(terms: LoanTerms) {
    this.recordedByDue = new Map(terms.recorded.map((payment) => [payment.due, payment]));
    this.events = [
      ...terms.recorded
        .filter(({ on, due, amount }) => on > due && amount > 0)
        .map((late) => ({ kind: 'late' as const, ...late })),
      ...terms.extrasOnce.map(({ on, amount }) => ({ kind: 'extra' as const, on, due: on, amount })),
    ].sort((a, b) => a.on - b.on);
  }

  /** What was recorded for the payment due on a day. */
  recorded(due: CalendarDay): RecordedPayment | undefined {
    return this.recordedByDue.get(due);
  }

  /** Takes the next event before a day; a late payment on the day itself also comes before that day's row. */
  takeBefore(day: CalendarDay): BetweenEvent | undefined {
    const next = this.events[this.at];
    if (!next || next.on > day || (next.on === day && next.kind === 'extra')) return undefined;
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

  /** First day from which rows may differ from the plain schedule, looking from now on. */
  nextDay(from: CalendarDay): CalendarDay {
    let day = this.events[this.at]?.on ?? Number.MAX_SAFE_INTEGER;
    for (const { due, on } of this.recordedByDue.values()) {
      const first = Math.min(due, on);
      if (first >= from && first < day) day = first;
    }
    return day;
  }
}
