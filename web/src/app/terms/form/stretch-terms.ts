import { cycleDate, type CalendarDay } from '@coffer/core';
import { readTerm } from '../../typed/typed-term';
import { firstPayment } from './first-payment';
import type { TypedLoan } from './loan-form';
import type { TypedStretch } from './stretch-form';

/** A stretch as typed, with how many payments come before it, where that is known. */
export interface StretchInPayments extends TypedStretch {
  readonly before: number | undefined;
}

/**
 * The stretches of a loan with their terms as numbers of payments; what is no term stays as it is typed. A day that a
 * stretch runs to is counted from its own first payment.
 */
export function stretchesInPayments(loan: TypedLoan): StretchInPayments[] {
  const { every, monthEnd: keepMonthEnd } = loan;
  const anchor = firstPayment(loan);
  let before: number | undefined = 0;
  return loan.stretches.map((stretch) => {
    const first: CalendarDay | undefined =
      anchor === undefined || before === undefined
        ? undefined
        : cycleDate({ anchor, every, keepMonthEnd }, before);
    const inPayments = (typed: string): string =>
      String(readTerm(typed, { every, keepMonthEnd, first }) ?? typed);
    const [count, amortizeOver] = [inPayments(stretch.count), inPayments(stretch.amortizeOver)];
    const made = { ...stretch, count, amortizeOver, before };
    const counted = stretch.type !== 'custom' && /^\d+$/.test(count);
    before = before !== undefined && counted ? before + Number(count) : undefined;
    return made;
  });
}
