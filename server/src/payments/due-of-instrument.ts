import {
  buildLoanSchedule,
  formatDay,
  loanRow,
  rowOfDue,
  TermsFault,
  type CalendarDay,
  type LoanEvent,
  type LoanRow,
  type LoanSchedule,
} from '@coffer/core';
import { recordsPayments, type DuePayment } from '@coffer/contract';
import {
  workedOut,
  type KnownInstrument,
  type StoredVersion,
  type Worked,
} from '../instruments/known-instruments.ts';
import { askedFor, paymentsDue } from './payments-due.ts';

/** Works out what falls due of one instrument from one day to another. */
export function dueOfInstrument(
  { version }: { readonly version: StoredVersion },
  { from, to }: { readonly from: CalendarDay; readonly to: CalendarDay },
): Worked<DuePayment[]> {
  return workedOut(version, (instrument) => dueOf(instrument, from, to));
}

function dueOf(instrument: KnownInstrument, from: CalendarDay, to: CalendarDay): DuePayment[] {
  const { id, version, document, schedule } = instrument;
  if (!recordsPayments(schedule)) return [];
  return paymentsDue(schedule, from, to).map((row) => {
    const recorded = schedule.receipts.byDue.get(row.due)?.parts;
    const agreed = recorded ? asAgreed(schedule, row) : { schedule, row };
    return {
      instrumentId: id,
      version,
      name: document.name,
      lender: document.lender ?? null,
      n: row.n ?? 0,
      due: formatDay(row.due),
      ...(recorded ? booked(schedule, row) : agreedParts(row)),
      amount: askedFor(agreed.schedule, agreed.row),
      recorded: (recorded ?? []).map(({ on, amount }) => ({ on: formatDay(on), amount })),
    };
  });
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
