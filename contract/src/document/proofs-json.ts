import { formatAmount, proofsOf, type AnySchedule, type Proof } from '@coffer/core';
import type { PublishedProof } from './published-schedule.ts';

/** A proof in the published form. */
export function publishedProof({ name, holds, difference }: Proof, digits: number): PublishedProof {
  return { name, holds, difference: formatAmount(difference, digits) };
}

/** The proofs of a schedule in the published form. */
export function proofsJson(schedule: AnySchedule): PublishedProof[] {
  return proofsOf(schedule).map((proof) => publishedProof(proof, schedule.terms.digits));
}
