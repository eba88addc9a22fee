import type { LoanSchedule } from '@coffer/core';
import type { Span } from './timeline-model';

/** Where the stretches of a schedule lie in time; none goes on after the loan is cleared. */
export function stretchSpans({ stretches, closing, date, length }: LoanSchedule): Span[] {
  const cleared = length > 0 && closing[length - 1] === 0 ? (date[length - 1] as number) : Infinity;
  return stretches.map(({ opens, count, interestDays }) => {
    const to = Math.min(cleared, interestDays[count - 1] as number);
    return { from: Math.min(opens, to), to };
  });
}
