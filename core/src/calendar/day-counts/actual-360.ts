import type { DayCount } from './day-count.ts';

/** Actual days over 360. Source: 2006 ISDA Definitions, section 4.16(e). */
export const actual360: DayCount = {
  title: 'actual days over 360',
  yearOf: 360,
  days: (from, to) => to - from,
  years: (from, to) => ({ num: to - from, den: 360 }),
};
