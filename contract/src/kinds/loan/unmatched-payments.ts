import { formatDay, type LoanSchedule } from '@coffer/core';
import type { Fault } from '../../faults/fault.ts';

/**
 * Payments recorded for days on which nothing falls due, as when terms are changed under them. Money that was paid is
 * never dropped or matched by guessing: the payment says which due date it was made for.
 */
export function unmatchedPayments(schedule: LoanSchedule): Fault[] {
  return schedule.receipts.unmatched.map((payment) => {
    const near = duesAround(schedule, payment.due).map(formatDay).join(' and ');
    const message =
      `No payment falls due on ${formatDay(payment.due)}, and ${formatDay(payment.on)} is recorded as the day it was ` +
      `paid; the nearest fall due on ${near}. Say which of them it was made for, or take the payment back first.`;
    return { key: `events.${schedule.terms.events.indexOf(payment)}.due`, message };
  });
}

/** The due dates on both sides of a day. */
function duesAround({ stretches }: LoanSchedule, day: number): number[] {
  const dues = stretches.flatMap((stretch) => [...stretch.dues.subarray(0, stretch.count)]);
  return [dues.findLast((due) => due < day), dues.find((due) => due > day)].filter(
    (due) => due !== undefined,
  );
}
