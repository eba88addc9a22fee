import type { DayCount } from './day-count.ts';

/** Actual days over 365, in leap years too. Source: 2006 ISDA Definitions, section 4.16(d). */
export const actual365Fixed: DayCount = {
  title: 'actual days over 365',
  yearOf: 365,
  days: (from, to) => to - from,
  years: (from, to) => ({ num: to - from, den: 365 }),
};
