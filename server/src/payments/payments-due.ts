import { formatDay, parseDay, type CalendarDay } from '@coffer/core';
import {
  askedFor,
  duePayments,
  paymentsDue,
  recordsPayments,
  type DuePayment,
  type UnrecordedPayment,
} from '@coffer/contract';
import {
  workedOut,
  type KnownInstrument,
  type StoredVersion,
  type Worked,
} from '../instruments/known-instruments.ts';
import { monthStart } from '../periods/period-store.ts';

/** Works out what falls due of one instrument from one day to another. */
export function dueOfInstrument(
  { version }: { readonly version: StoredVersion },
  { from, to }: { readonly from: CalendarDay; readonly to: CalendarDay },
): Worked<DuePayment[]> {
  return workedOut(version, ({ id, version: number, document, schedule }) => {
    if (!recordsPayments(schedule)) return [];
    const { name, lender = null } = document;
    return duePayments({ instrumentId: id, version: number, name, lender }, schedule, from, to);
  });
}

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
