import { mostSteps } from '../../kinds/work-budget.ts';
import { costPlansOf } from '../costs/issue-costs.ts';
import type { LoanSchedule } from './loan-schedule.ts';

/** Steps that a row of a plan for costs comes to, beside one of a payment levelled anew. */
const ofPlannedRow = 40;

/** The rows of a loan, once for each time that its payment is levelled anew or its costs are spread. */
export function loanSteps(schedule: LoanSchedule): number {
  const { length, settings } = schedule;
  return length * (1 + settings.length + ofPlannedRow * costPlansOf(schedule));
}

/** What of a loan takes many steps, and what may be done about it. */
export function whyLoanIsDear(schedule: LoanSchedule): string {
  const { length, settings } = schedule;
  const plans = costPlansOf(schedule);
  const most = Math.floor((mostSteps / length - 1 - settings.length) / ofPlannedRow);
  return ofPlannedRow * plans > settings.length
    ? `Costs are spread anew for ${plans} events over ${length} rows, which takes too long; at most ${Math.max(0, most)} ` +
        'such events can be. Enter fees that belong together as one, or as an expense of their day.'
    : `The payment is levelled anew ${settings.length} times over ${length} rows, which takes too ` +
        'long; have some of those events keep the payment, or shorten the term.';
}
