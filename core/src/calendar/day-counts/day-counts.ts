import { actual360 } from './actual-360.ts';
import { actual365Fixed } from './actual-365-fixed.ts';
import { actualActualIcma } from './actual-actual-icma.ts';
import { actualActualIsda } from './actual-actual-isda.ts';
import type { DayCount } from './day-count.ts';
import { evenPeriods } from './even-periods.ts';
import { thirty360European } from './thirty-360-european.ts';
import { thirty360EuropeanIsda } from './thirty-360-european-isda.ts';
import { thirty360 } from './thirty-360.ts';

/** Every day count, by the name it has in an instrument document. */
export const dayCounts = {
  'even-periods': evenPeriods,
  '30/360': thirty360,
  '30E/360': thirty360European,
  '30E/360-ISDA': thirty360EuropeanIsda,
  'ACT/360': actual360,
  'ACT/365F': actual365Fixed,
  'ACT/ACT-ISDA': actualActualIsda,
  'ACT/ACT-ICMA': actualActualIcma,
} as const satisfies Record<string, DayCount>;

export type DayCountName = keyof typeof dayCounts;

/** The names, in the order they are offered. */
export const dayCountNames = Object.keys(dayCounts) as [DayCountName, ...DayCountName[]];
