import { costPlansOf } from '../loan/costs/issue-costs.ts';
import type { Schedule } from './instrument.ts';

/**
 * Steps that one instrument may take to work out: a step is a row looked at once. Two million come to less than half a
 * second on two cores of 2026.
 */
export const mostSteps = 2_000_000;

/** Steps that a row of a plan for costs comes to, beside one of a payment levelled anew. */
const ofPlannedRow = 40;

/**
 * What working out an instrument comes to, in steps: its rows, once for each time that a payment is levelled anew or
 * costs are spread. Counted in work and never in seconds, so that the same document is accepted anywhere.
 */
export function stepsToWorkOut(schedule: Schedule): number {
  if (schedule.kind === 'bond') return schedule.periods.length * (1 + schedule.terms.redemptions.length);
  const { length, settings } = schedule;
  return length * (1 + settings.length + ofPlannedRow * costPlansOf(schedule));
}

/** What of an instrument takes more steps than it may, in words; `undefined` where it is within the budget. */
export function overBudget(schedule: Schedule): string | undefined {
  const steps = stepsToWorkOut(schedule);
  if (steps <= mostSteps || schedule.kind === 'bond') return undefined;
  const plans = costPlansOf(schedule);
  const most = Math.floor(mostSteps / (ofPlannedRow * schedule.length));
  return plans > most
    ? `Costs are spread anew for ${plans} events over ${schedule.length} rows, which takes too long; at most ${most} ` +
        'such events can be. Enter fees that belong together as one, or as an expense of their day.'
    : `The payment is levelled anew ${schedule.settings.length} times over ${schedule.length} rows, which takes too ` +
        'long; have some of those events keep the payment, or shorten the term.';
}
