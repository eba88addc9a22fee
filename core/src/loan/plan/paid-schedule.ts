import type { CalendarDay } from '../../calendar/calendar-day.ts';
import { TermsFault } from '../../faults/terms-fault.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import { grainsAt, type LoanSchedule } from '../schedule/loan-schedule.ts';
import { grainsOf } from '../../money/rounding.ts';
import type { LoanTerms } from '../terms/loan-terms.ts';
import type { RecordedPayment } from '../terms/loan-events.ts';
import type { Contract } from './contract.ts';

/**
 * The loan as it runs where each payment after the contract's day is of an amount of its own, never more than is owed
 * with interest. It follows the loan's own rules throughout; `undefined` where these refuse it, as a draw on a loan that is
 * repaid by then.
 *
 * @param amounts of the first of the contract's dues, minor units; the rest is paid as it is asked
 */
export function paidSchedule(contract: Contract, amounts: readonly number[]): LoanSchedule | undefined {
  try {
    return paid(contract, amounts);
  } catch (error) {
    if (error instanceof TermsFault) return undefined;
    throw error;
  }
}

function paid(contract: Contract, amounts: readonly number[]): LoanSchedule {
  const terms = termsToRaise(contract);
  const planned = amounts.map((amount, at): RecordedPayment => ({
    type: 'paid',
    due: contract.dues[at]?.due ?? 0,
    on: contract.dues[at]?.on ?? 0,
    amount,
  }));
  for (;;) {
    const schedule = buildLoanSchedule({ ...terms, events: [...terms.events, ...planned] });
    const over = firstOver(schedule, planned);
    if (!over) return schedule;
    // What is beyond all that is owed is not paid, and neither is anything after it.
    const payment = planned[over.at] as RecordedPayment;
    planned.splice(over.at, Infinity, { ...payment, amount: payment.amount - over.amount });
  }
}

/** The first planned payment that is more than is owed, and by how much; recorded ones are as they are. */
function firstOver(
  schedule: LoanSchedule,
  paid: readonly RecordedPayment[],
): { readonly at: number; readonly amount: number } | undefined {
  const { length, date, terms } = schedule;
  // Where nothing is rounded, less than a minor unit over is what clears a balance that no whole one pays.
  const over = (row: number): bigint => (row < 0 ? 0n : grainsAt(schedule, 'overpaid', row));
  for (let row = 0; row < length; row += 1) {
    const more = Number((over(row) - over(row - 1)) / grainsOf(terms));
    if (more <= 0) continue;
    const at = paid.findIndex(({ on, amount }) => on === date[row] && amount > 0);
    if (at >= 0) return { at, amount: Math.min(more, paid[at]?.amount ?? 0) };
  }
  return undefined;
}

/** Whether nothing is owed any more by the end of a day, nor after it. */
export function isCleared(schedule: LoanSchedule, by: CalendarDay): boolean {
  const { length, date } = schedule;
  const left = (row: number): bigint =>
    grainsAt(schedule, 'closing', row) + grainsAt(schedule, 'unpaid', row);
  let cleared = length;
  while (cleared > 0 && left(cleared - 1) === 0n) cleared -= 1;
  return cleared < length && (date[cleared] as number) <= by;
}

/**
 * The terms with what would set payments anew after the contract's day left out: every payment is given, and a balloon
 * may be above what is owed by then.
 */
function termsToRaise({ schedule, on }: Contract): LoanTerms {
  const { terms, stretches, rates } = schedule;
  const { index: _, ...rest } = terms;
  return {
    ...rest,
    annualRate: rates[0]?.annualRate ?? terms.annualRate,
    phases: terms.phases.map((phase, at) => {
      const begins = stretches[at]?.dues[0] ?? Infinity;
      if (phase.type !== 'level' || phase.balloon === undefined || begins <= on) return phase;
      const { balloon: __, ...level } = phase;
      return { ...level, amortizeOver: phase.count };
    }),
    rateSteps: rates.slice(1).map(({ from, annualRate, payment }) => ({
      from,
      annualRate,
      payment: from > on ? 'keep' : payment,
    })),
  };
}
