import { formatAmount, proofsOf, type Schedule } from '@coffer/core';

/** The proofs of a schedule in the published form. */
export function proofsJson(schedule: Schedule): object[] {
  return proofsOf(schedule).map(({ name, holds, difference }) => ({
    name,
    holds,
    difference: formatAmount(difference, schedule.terms.digits),
  }));
}
