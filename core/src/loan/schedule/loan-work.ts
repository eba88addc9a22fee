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
  const plans = costPlansOf(schedule);
  const most = Math.floor(mostSteps / (ofPlannedRow * schedule.length));
  return plans > most
    ? `Costs are spread anew for ${plans} events over ${schedule.length} rows, which takes too long; at most ${most} ` +
        'such events can be. Enter fees that belong together as one, or as an expense of their day.'
    : `The payment is levelled anew ${schedule.settings.length} times over ${schedule.length} rows, which takes too ` +
        'long; have some of those events keep the payment, or shorten the term.';
}
