import { formatDay, type CalendarDay } from '../../calendar/calendar-day.ts';
import { TermsFault } from '../../faults/terms-fault.ts';
import type { LoanTerms, Phase } from './loan-terms.ts';

/** A stretch as far as its dates go. */
interface DatedStretch {
  readonly phase: Phase;
  readonly phaseAt: number;
  readonly dues: Int32Array;
  readonly count: number;
  readonly oddLast: boolean;
}

/**
 * Refuses payments dated before those that come before them: a list that begins while an earlier stretch still runs,
 * a last payment of its own that is not last, or payments that closed days put on one day. Throws {@link TermsFault} naming the key.
 */
export function checkStretchDates(terms: LoanTerms, stretches: readonly DatedStretch[]): void {
  let before = terms.start - 1;
  for (const { phase, phaseAt, dues, count, oddLast } of stretches) {
    const first = dues[0] as number;
    if (phase.type === 'custom' && phaseAt > 0 && first <= before) {
      throw new TermsFault(
        `payments.phases.${phaseAt}.payments.0.on`,
        `This listed payment falls on ${formatDay(first)}, and the stretch before it runs to ${formatDay(before)}: ` +
          'the two overlap. List later payments, or give the stretch before fewer.',
      );
    }
    const last = dues[count - 1] as number;
    const lastButOne = count > 1 ? (dues[count - 2] as number) : before;
    if (oddLast && last <= lastButOne) {
      throw new TermsFault(
        'payments.last',
        `The last payment must fall after the one before it, ${formatDay(lastButOne)}; found ${formatDay(last)}.`,
      );
    }
    if (terms.businessDays?.closed && phase.type !== 'custom') checkApart(dues, count, before);
    before = last;
  }
}

/** Refuses closed days that leave payments no day of their own: each is told by the day that it falls due. */
function checkApart(dues: Int32Array, count: number, before: CalendarDay): void {
  let last = before;
  for (let at = 0; at < count; at += 1) {
    const due = dues[at] as CalendarDay;
    if (due <= last) {
      throw new TermsFault(
        'payments.businessDays.closed',
        `With these closed days a payment would fall on ${formatDay(due)}, where the one before it stands or the loan has not begun; leave a business day to each.`,
      );
    }
    last = due;
  }
}
