import { debtKindOf } from '../kinds/kinds.ts';
import type { Schedule } from '../kinds/schedules.ts';
import { mostSteps } from '../kinds/work-budget.ts';
import type { Count } from '../units/units.ts';

/**
 * What working out an instrument comes to, in steps: its rows, once for each time that something is worked out anew.
 * Counted in work and never in seconds, so that the same document is accepted anywhere.
 *
 * @example
 * stepsToWorkOut(loan) // 24
 */
export function stepsToWorkOut(schedule: Schedule): Count {
  return debtKindOf(schedule).stepsToWorkOut(schedule);
}

/**
 * What of an instrument takes more steps than it may, in words; `undefined` where it is within the budget.
 *
 * @example
 * overBudget(loan) // undefined
 */
export function overBudget(schedule: Schedule): string | undefined {
  return stepsToWorkOut(schedule) <= mostSteps ? undefined : debtKindOf(schedule).whyDear(schedule);
}
