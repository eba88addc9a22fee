import { formatDay, outlook, parseDay, type CalendarDay, type Schedule } from '@coffer/core';
import type { OutlookView } from '@coffer/contract';

/** What is to come of an instrument after a day. */
export function outlookOf(schedule: Schedule, on: CalendarDay): OutlookView {
  const { ends, months, ...figures } = outlook(schedule, on);
  return { ...figures, months: [...months], ends: formatDay(ends) };
}

/** What is to come of several instruments together: sums, and the last of their last days. */
export function outlookOfAll(outlooks: readonly OutlookView[], on: string): OutlookView {
  const sum = (of: (each: OutlookView) => number): number =>
    outlooks.reduce((total, each) => total + of(each), 0);
  const ends = Math.max(...[on, ...outlooks.map((each) => each.ends)].map((day) => parseDay(day) ?? 0));
  return {
    interest: sum(({ interest }) => interest),
    months: Array.from({ length: 12 }, (_, at) => sum(({ months }) => months[at] ?? 0)),
    owedAfter: sum(({ owedAfter }) => owedAfter),
    ends: formatDay(ends),
    left: sum(({ left }) => left),
  };
}
