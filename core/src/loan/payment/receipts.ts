import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { eventsOf, type LoanEvent, type RecordedPayment } from '../terms/loan-events.ts';
import type { Stretch } from '../terms/stretch.ts';

/** What was paid for one due date. Minor units. */
export interface Receipt {
  /** The due date as it has moved. */
  readonly due: CalendarDay;
  /** Everything recorded for it, in order of days; a missed payment is recorded as zero. */
  readonly parts: readonly RecordedPayment[];
  /** The day of its row: of the last part paid by the due date, else the due date. */
  readonly date: CalendarDay;
  /** Paid on that day. */
  readonly amount: number;
  /** Paid before that day in its own period, or before the payment due before. */
  readonly early: readonly RecordedPayment[];
  /** Paid after the due date. */
  readonly late: readonly RecordedPayment[];
}

/** Recorded payments matched with the due dates they were made for. */
export interface Receipts {
  readonly byDue: ReadonlyMap<CalendarDay, Receipt>;
  /** Made for days on which nothing falls due. */
  readonly unmatched: readonly RecordedPayment[];
}

/** The due date that a payment is named by: as it has moved, or as it was agreed. `undefined` where there is none. */
export function dueNamed(
  stretches: readonly Pick<Stretch, 'dues' | 'agreedDays' | 'count'>[],
  named: CalendarDay,
): CalendarDay | undefined {
  for (const days of ['dues', 'agreedDays'] as const) {
    for (const stretch of stretches) {
      const at = stretch[days].subarray(0, stretch.count).indexOf(named);
      if (at >= 0) return stretch.dues[at];
    }
  }
  return undefined;
}

/**
 * Matches recorded payments with due dates. A due may be named by its agreed day or the one it moved to, and be paid
 * in parts; its row falls on the last part paid by the due date. What was paid on or before the day of the row before
 * it belongs to its own day all the same.
 */
export function receiptsOf(
  events: readonly LoanEvent[],
  stretches: readonly Pick<Stretch, 'dues' | 'agreedDays' | 'count'>[],
): Receipts {
  const recorded = eventsOf(events, 'paid');
  if (recorded.length === 0) return { byDue: new Map(), unmatched: [] };
  const made = new Map<CalendarDay, RecordedPayment[]>();
  const unmatched: RecordedPayment[] = [];
  for (const payment of recorded) {
    const due = dueNamed(stretches, payment.due);
    if (due === undefined) unmatched.push(payment);
    else made.set(due, [...(made.get(due) ?? []), payment]);
  }
  const byDue = new Map<CalendarDay, Receipt>();
  let before = -Infinity;
  for (const { dues, count } of stretches) {
    for (const due of dues.subarray(0, count)) {
      const payments = made.get(due);
      if (payments) byDue.set(due, receiptOf(due, payments, before));
      before = byDue.get(due)?.date ?? due;
    }
  }
  return { byDue, unmatched };
}

function receiptOf(due: CalendarDay, payments: readonly RecordedPayment[], before: CalendarDay): Receipt {
  const inOrder = [...payments].sort((a, b) => a.on - b.on);
  const date = inOrder.findLast(({ on }) => on <= due && on > before)?.on ?? due;
  return {
    due,
    parts: inOrder,
    date,
    amount: inOrder.reduce((sum, { on, amount }) => sum + (on === date ? amount : 0), 0),
    early: inOrder.filter(({ on, amount }) => on < date && amount > 0),
    late: inOrder.filter(({ on, amount }) => on > due && amount > 0),
  };
}
