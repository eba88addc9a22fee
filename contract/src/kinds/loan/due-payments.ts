import {
  buildLoanSchedule,
  dueInArrears,
  formatDay,
  loanRow,
  rowOfDue,
  TermsFault,
  type CalendarDay,
  type LoanEvent,
  type LoanRow,
  type LoanSchedule,
} from '@coffer/core';
import type { DuePayment } from '../../api/views.ts';

/** Whose payments they are. */
export type OfInstrument = Pick<DuePayment, 'instrumentId' | 'version' | 'name' | 'lender'>;

/**
 * The payments that fall due from one day to another, each as agreed and as recorded; before them what of earlier ones
 * is in arrears at the end of the other day, the oldest first.
 */
export function duePayments(
  instrument: OfInstrument,
  schedule: LoanSchedule,
  from: CalendarDay,
  to: CalendarDay,
): DuePayment[] {
  const short = new Map(dueInArrears(schedule, to).map(({ due, left }) => [due, left]));
  const earlier = [...short.keys()]
    .filter((due) => due < from && schedule.receipts.byDue.has(due))
    .map((due) => rowOfDue(schedule, due));
  const rows = earlier.filter((row) => row >= 0).map((row) => loanRow(schedule, row));
  return [...rows, ...paymentsDue(schedule, from, to)].map((row) => {
    const recorded = schedule.receipts.byDue.get(row.due)?.parts;
    const agreed = recorded ? asAgreed(schedule, row) : { schedule, row };
    return {
      ...instrument,
      n: row.n ?? 0,
      due: formatDay(row.due),
      ...(recorded ? booked(schedule, row) : agreedParts(row)),
      amount: askedFor(agreed.schedule, agreed.row),
      recorded: (recorded ?? []).map(({ on, amount }) => ({ on: formatDay(on), amount })),
      left: recorded ? (short.get(row.due) ?? 0) : 0,
    };
  });
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

interface Parts {
  readonly interest: number;
  readonly fee: number;
  readonly principal: number;
}

function agreedParts({ payment, interest, fee }: LoanRow): Parts {
  return { interest, fee, principal: payment - interest - fee };
}

/** What the books make of a payment that is recorded, all its parts together. */
function booked(schedule: LoanSchedule, { due }: LoanRow): Parts {
  let [interest, fee, principal] = [0, 0, 0];
  for (let at = 0; at < schedule.length; at += 1) {
    if (schedule.due[at] !== due) continue;
    interest += schedule.interest[at] as number;
    fee += schedule.fee[at] as number;
    principal += (schedule.principal[at] as number) + (schedule.extra[at] as number);
  }
  return { interest, fee, principal };
}

interface RowOf {
  readonly schedule: LoanSchedule;
  readonly row: LoanRow;
}

/** A payment as it would be, had nothing been recorded for it; as it is where what came later rests on that. */
function asAgreed(schedule: LoanSchedule, row: LoanRow): RowOf {
  const { terms, receipts } = schedule;
  const recorded: readonly LoanEvent[] = receipts.byDue.get(row.due)?.parts ?? [];
  const events = terms.events.filter((event) => !recorded.includes(event));
  try {
    const agreed = buildLoanSchedule({ ...terms, events });
    const at = rowOfDue(agreed, row.due);
    return at < 0 ? { schedule, row } : { schedule: agreed, row: loanRow(agreed, at) };
  } catch (error) {
    if (error instanceof TermsFault) return { schedule, row };
    throw error;
  }
}
