import { calendarDay, parseDay, type CalendarDay } from '@coffer/core';

/** What day it is. */
export type Clock = () => CalendarDay;

/** The clock of the machine, or one that stands at a day, for tests and demonstrations. */
export function clockAt(fixed?: string): Clock {
  const stands = fixed === undefined ? undefined : parseDay(fixed);
  if (stands !== undefined) return () => stands;
  return () => {
    const now = new Date();
    return calendarDay(now.getFullYear(), now.getMonth() + 1, now.getDate());
  };
}
