import {
  type CalendarDay,
  formatAmount,
  formatDay,
  loanRow,
  type LoanSchedule,
  type MinorUnits,
  parseDay,
  rowOfDue,
  type Schedule,
} from '@coffer/core';
import { recordsPayments, type PaymentMade, type Question } from '@coffer/contract';
import type { KnownInstrument } from '../instruments/known-instruments.ts';
import type { Placed } from './kept-payments.ts';

/** Days from its due date after which the day of a payment looks like a slip. */
const farAway = 366;

/** The months that payments are recorded among. */
export interface RecordingMonths {
  /** First day of the open month. */
  readonly opens: CalendarDay;
  readonly ends: CalendarDay;
}

/**
 * What is asked about payments before they are recorded: a day far from the due date, a due date after the open month,
 * and a day in a closed month before the due date, which changes interest and principal of what was closed.
 */
export function askAboutPayments(
  { document: { name }, schedule: before }: KnownInstrument,
  after: Schedule,
  placed: readonly Placed<PaymentMade>[],
  { opens, ends }: RecordingMonths,
): Question[] {
  if (!recordsPayments(before) || !recordsPayments(after)) return [];
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
    const at = rowOfDue(schedule, due);
    return at < 0 ? undefined : loanRow(schedule, at);
  });
  const money = (minor: MinorUnits): string => formatAmount(minor, after.terms.digits);
  if (!was || !is) return 'The open month books what that changes.';
  return (
    `Its interest becomes ${money(is.interest)} (now ${money(was.interest)}), its principal ` +
    `${money(is.principal + is.extra)} (now ${money(was.principal + was.extra)}); the open month books the difference.`
  );
}
