import { loanRows, parseDay } from '@coffer/core';
import { duePayments, recordsPayments, type DuePayment } from '@coffer/contract';
import type { OpenInstrument } from '../instrument/instruments.service';

/** Payments offered from before the open month, and in all. */
const before = 3;
const most = 14;
/** Days of the longest month: what is due within them before the open month's end is of the month, or nearly. */
const monthDays = 31;

/**
 * The payments of an instrument that can still be recorded, in whole or in part: first what is in arrears, the oldest
 * first, then those of the open month and after, in order, then the few before it that were assumed paid, the latest
 * first.
 */
export function unrecordedNear(
  { id, version, read }: OpenInstrument,
  openEnd: string | undefined,
): DuePayment[] {
  const { schedule, document } = read;
  if (!recordsPayments(schedule)) return [];
  const opens = (parseDay(openEnd ?? '') ?? 0) - monthDays;
  const dues = loanRows(schedule).flatMap(({ n, due }) => (n === null ? [] : due));
  const first = dues.findIndex((due) => due > opens);
  const start = first < 0 ? dues.length : first;
  // What is recorded already among them is not offered, so as many more are looked at.
  const near = dues.slice(Math.max(0, start - most), start + most);
  const [from, to] = [near[0], near.at(-1)];
  if (from === undefined || to === undefined) return [];
  const whose = { instrumentId: id, version, name: document.name, lender: document.lender ?? null };
  const open = duePayments(whose, schedule, from, to).filter(
    ({ recorded, left }) => recorded.length === 0 || left > 0,
  );
  const short = open.filter(({ left, due }) => left > 0 && (parseDay(due) ?? 0) <= opens);
  const ofMonth = open.filter(({ due }) => (parseDay(due) ?? 0) > opens);
  const earlier = open.filter((payment) => !short.includes(payment) && !ofMonth.includes(payment));
  return [...short, ...ofMonth.slice(0, most - before), ...earlier.slice(-before).reverse()];
}
