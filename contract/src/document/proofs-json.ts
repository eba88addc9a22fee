import { formatAmount, proofsOf, type Proof, type Schedule } from '@coffer/core';

/** The proofs of a schedule in the published form. */
export function proofsJson(schedule: Schedule): object[] {
  return proofsOf(schedule).map((proof) => proofJson(proof, schedule.terms.digits));
}

/** A proof in the published form. */
export function proofJson({ name, holds, difference }: Proof, digits: number): object {
  return { name, holds, difference: formatAmount(difference, digits) };
}
