import type { Position } from '@coffer/core';

/** What interest charged and not paid is called: kept apart by agreement it is deferred, and nobody is late with it. */
export function unpaidName({
  unpaidInterest,
  deferredInterest,
}: Pick<Position, 'unpaidInterest' | 'deferredInterest'>): string {
  if (deferredInterest === 0) return 'Interest unpaid';
  return deferredInterest === unpaidInterest ? 'Interest deferred' : 'Interest unpaid and deferred';
}
