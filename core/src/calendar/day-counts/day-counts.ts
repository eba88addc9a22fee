import { actual360 } from './actual-360.ts';
import { actual365Fixed } from './actual-365-fixed.ts';
import type { DayCount } from './day-count.ts';
import { evenPeriods } from './even-periods.ts';
import { thirty360 } from './thirty-360.ts';

/** Every day count, by the name it has in an instrument document. */
export const dayCounts = {
  'even-periods': evenPeriods,
  '30/360': thirty360,
  'ACT/360': actual360,
  'ACT/365F': actual365Fixed,
} as const satisfies Record<string, DayCount>;

export type DayCountName = keyof typeof dayCounts;

/** The names, in the order they are offered. */
export const dayCountNames = Object.keys(dayCounts) as [DayCountName, ...DayCountName[]];
