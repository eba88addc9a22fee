import { formatAmount, proofsOf, type AnySchedule } from '@coffer/core';
import type { PublishedProof } from './published-schedule.ts';

/** The proofs of a schedule in the published form. */
export function proofsJson(schedule: AnySchedule): PublishedProof[] {
  const { digits } = schedule.terms;
  return proofsOf(schedule).map(({ name, holds, difference }) => ({
    name,
    holds,
    difference: formatAmount(difference, digits),
  }));
}
