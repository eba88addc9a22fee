import type { LoanSchedule, Position } from '@coffer/core';

/** What interest charged and not paid is called: kept apart by agreement it is deferred, and nobody is late with it. */
export function unpaidName({
  unpaidInterest,
  deferredInterest,
}: Pick<Position, 'unpaidInterest' | 'deferredInterest'>): string {
  if (deferredInterest === 0) return 'Interest unpaid';
  return deferredInterest === unpaidInterest ? 'Interest deferred' : 'Interest unpaid and deferred';
}

/** The title of a column of what is unpaid after each row. */
export function unpaidTitle({ unpaid, deferred }: Pick<LoanSchedule, 'unpaid' | 'deferred'>): string {
  return deferred.some((amount) => amount > 0) && unpaid.every((amount, at) => amount === deferred[at])
    ? 'Deferred'
    : 'Unpaid';
}
