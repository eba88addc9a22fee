import type { DayCount } from './day-count.ts';

/**
 * Every regular period is 1/p of a year however many days it has; part of a period is its days over the
 * period's days. Source: common practice for level loans.
 */
export const evenPeriods: DayCount = {
  title: 'even periods',
  days: (from, to) => to - from,
  years: (from, to, period) => {
    const { num, den } = period.evenYears;
    const length = period.to - period.from;
    if (to - from === length) return { num, den };
    return { num: num * (to - from), den: den * length };
  },
};
