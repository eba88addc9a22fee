import { formatDay } from '@coffer/core';
import { showDay, type ClosedDay } from '@coffer/contract';
import { readDay } from '../typed/typed-day';

/** What was made of typed closed days. */
export interface ReadClosedDays {
  readonly days: readonly ClosedDay[];
  /** What is wrong with the first line that is not understood; empty where all are. */
  readonly fault: string;
}

/** The most words that a date is typed in: `15 Jun 2026`. */
const mostWords = 3;

/** Closed days as they are typed, one a line: a date, then what the day is. The last line of a day counts. */
export function readClosedDays(text: string): ReadClosedDays {
  const days = new Map<string, string>();
  let fault = '';
  for (const [at, line] of text.split('\n').entries()) {
    const words = line.trim().split(/\s+/).filter(Boolean);
    if (words.length === 0) continue;
    const read = [...Array(mostWords).keys()]
      .map((few) => mostWords - few)
      .map((many) => ({ day: readDay(words.slice(0, many).join(' ')), name: words.slice(many).join(' ') }))
      .find(({ day }) => day !== undefined);
    if (read?.day !== undefined) days.set(formatDay(read.day), read.name || 'closed');
    else fault ||= `Line ${at + 1}, “${line.trim()}”, begins with no date.`;
  }
  const inOrder = [...days].sort(([one], [other]) => one.localeCompare(other));
  return { days: inOrder.map(([on, name]) => ({ on, name })), fault };
}

/** Closed days as people type them. */
export function typedClosedDays(days: readonly ClosedDay[]): string {
  return days.map(({ on, name }) => `${showDay(on)}  ${name}`).join('\n');
}
