import type { Knex } from 'knex';
import {
  buildSchedule,
  formatDay,
  loanRow,
  parseDay,
  type CalendarDay,
  type LoanEvent,
  type LoanRow,
  type LoanSchedule,
} from '@coffer/core';
import type { DuePayment, DuePaymentsView } from '@coffer/contract';
import { newestVersions } from '../instruments/instrument-store.ts';
import { workedOut, type KnownInstrument } from '../instruments/known-instruments.ts';
import { inShares } from '../workers/shares.ts';
import { monthStart, openPeriod } from '../periods/period-store.ts';
import { paymentsDue } from './payments-due.ts';

/** What falls due in the open month, in order of the day, then of the name. */
export async function paymentsOfMonth(database: Knex, companyId: number): Promise<DuePaymentsView> {
  const open = await openPeriod(database, companyId);
  if (!open) return { month: null, payments: [] };
  const from = monthStart(open.ends_on);
  const to = parseDay(open.ends_on) as CalendarDay;
  const payments: DuePayment[] = [];
  await inShares(await newestVersions(database, companyId), (version) => {
    const worked = workedOut(version, (instrument) => ofInstrument(instrument, from, to));
    // What cannot be worked out is told in register and close; the other payments can be recorded.
    if ('made' in worked) payments.push(...worked.made);
  });
  payments.sort((one, other) => one.due.localeCompare(other.due));
  return { month: open.ends_on, payments };
}

function ofInstrument(instrument: KnownInstrument, from: CalendarDay, to: CalendarDay): DuePayment[] {
  const { id, version, document, schedule } = instrument;
  if (schedule.kind !== 'loan') return [];
  return paymentsDue(schedule, from, to).map((row) => {
    const recorded = schedule.receipts.byDue.get(row.due)?.parts;
    const asAgreed = recorded ? rowAsAgreed(schedule, row.due) : row;
    return {
      instrumentId: id,
      version,
      name: document.name,
      lender: document.lender ?? null,
      n: row.n ?? 0,
      due: formatDay(row.due),
      interest: asAgreed.interest,
      fee: asAgreed.fee,
      principal: asAgreed.payment - asAgreed.interest - asAgreed.fee,
      amount: asAgreed.payment,
      recorded: (recorded ?? []).map(({ on, amount }) => ({ on: formatDay(on), amount })),
    };
  });
}

/** The payment due on a day as it would be, had nothing been recorded for it. */
function rowAsAgreed({ terms, receipts }: LoanSchedule, due: CalendarDay): LoanRow {
  const recorded: readonly LoanEvent[] = receipts.byDue.get(due)?.parts ?? [];
  const agreed = buildSchedule({
    ...terms,
    events: terms.events.filter((event) => !recorded.includes(event)),
  });
  const at = (agreed as LoanSchedule).due.indexOf(due);
  return loanRow(agreed as LoanSchedule, at);
}
