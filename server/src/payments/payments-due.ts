import {
  formatDay,
  loanRow,
  parseDay,
  type CalendarDay,
  type LoanRow,
  type LoanSchedule,
} from '@coffer/core';
import { recordsPayments, type UnrecordedPayment } from '@coffer/contract';
import type { KnownInstrument } from '../instruments/known-instruments.ts';
import { monthStart } from '../periods/period-store.ts';

/** Payments of the open month, due by a day, that are not recorded. */
export function unrecordedBy(
  { id, document, schedule }: KnownInstrument,
  openEnd: string,
  day: CalendarDay,
): UnrecordedPayment[] {
  if (!recordsPayments(schedule)) return [];
  const from = monthStart(openEnd);
  const to = Math.min(day, parseDay(openEnd) as CalendarDay);
  return paymentsDue(schedule, from, to)
    .filter((row) => !schedule.receipts.byDue.has(row.due))
    .map((row) => ({
      instrumentId: id,
      name: document.name,
      due: formatDay(row.due),
      amount: askedFor(schedule, row),
    }));
}

/** What is to leave the bank for a payment: what was overpaid before takes its part of it. */
export function askedFor({ overpaid }: LoanSchedule, row: LoanRow): number {
  const before = row.index === 0 ? 0 : (overpaid[row.index - 1] as number);
  return row.payment + row.overpaid - before;
}

/** The numbered payments that fall due from one day to another, but those of which nothing is asked. */
export function paymentsDue(schedule: LoanSchedule, from: CalendarDay, to: CalendarDay): LoanRow[] {
  const found: LoanRow[] = [];
  for (let at = 0; at < schedule.length; at += 1) {
    const due = schedule.due[at] as number;
    if ((schedule.n[at] as number) === 0 || due < from || due > to) continue;
    const row = loanRow(schedule, at);
    if (askedFor(schedule, row) > 0 || schedule.receipts.byDue.has(due)) found.push(row);
  }
  return found;
}
