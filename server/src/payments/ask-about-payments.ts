import {
  formatAmount,
  formatDay,
  loanRow,
  parseDay,
  type CalendarDay,
  type LoanSchedule,
} from '@coffer/core';
import type { PaymentMade, Question } from '@coffer/contract';

/** Days from its due date after which the day of a payment looks like a slip. */
const farAway = 366;

/** The months that payments are recorded among. */
export interface RecordingMonths {
  /** First day of the open month. */
  readonly opens: CalendarDay;
  readonly ends: CalendarDay;
}

/** A payment with its place in what was sent. */
export interface Placed {
  readonly at: number;
  readonly payment: PaymentMade;
}

/**
 * What is asked about payments before they are recorded: a day far from the due date, a due date after the open month,
 * and a day in a closed month before the due date, which changes interest and principal of what was closed.
 */
export function askAboutPayments(
  name: string,
  before: LoanSchedule,
  after: LoanSchedule,
  placed: readonly Placed[],
  { opens, ends }: RecordingMonths,
): Question[] {
  return placed.flatMap(({ at, payment }) => {
    const [due, on] = [parseDay(payment.due) as CalendarDay, parseDay(payment.on) as CalendarDay];
    const said = `${name}, due ${payment.due}`;
    const ask = (code: Question['code'], field: string, message: string): Question => ({
      code,
      key: `payments.${at}.${field}`,
      message: `${said}: ${message}`,
    });
    const found: Question[] = [];
    if (Math.abs(on - due) > farAway) {
      found.push(ask('far-from-due', 'on', `paid on ${payment.on}, more than a year from its due date.`));
    }
    if (due > ends) {
      found.push(
        ask('due-later', 'due', `it falls due after the open month, which ends on ${formatDay(ends)}.`),
      );
    }
    if (on < opens && on < due) {
      const message = `paid on ${payment.on}, in a closed month and before it was due. ${whatItDoes(before, after, due)}`;
      found.push(ask('paid-in-closed-month', 'on', message));
    }
    return found;
  });
}

/** What recording a payment does to the interest and the principal of the one that it is made for. */
function whatItDoes(before: LoanSchedule, after: LoanSchedule, due: CalendarDay): string {
  const [was, is] = [before, after].map((schedule) => {
    const at = schedule.due
      .subarray(0, schedule.length)
      .findIndex((day, row) => day === due && schedule.n[row] !== 0);
    return at < 0 ? undefined : loanRow(schedule, at);
  });
  const money = (minor: number): string => formatAmount(minor, after.terms.digits);
  if (!was || !is) return 'The open month books what that changes.';
  return (
    `Its interest becomes ${money(is.interest)} (now ${money(was.interest)}), its principal ` +
    `${money(is.principal + is.extra)} (now ${money(was.principal + was.extra)}); the open month books the difference.`
  );
}
