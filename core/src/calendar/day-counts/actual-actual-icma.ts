import type { DayCount } from './day-count.ts';

/**
 * Actual days over the days of the regular period they fall in, times the periods a year; an odd period is taken
 * apart into the regular ones around it. Source: ICMA rule 251; 2006 ISDA Definitions, section 4.16(c).
 */
export const actualActualIcma: DayCount = {
  title: 'actual days over the days of the regular period',
  days: (from, to) => to - from,
  years: (from, to, { boundaries, perYear }) => {
    let num = 0;
    let den = 1;
    for (let at = 0; at + 1 < boundaries.length; at += 1) {
      const begins = boundaries[at] as number;
      const ends = boundaries[at + 1] as number;
      const days = Math.min(to, ends) - Math.max(from, begins);
      if (days <= 0) continue;
      const length = ends - begins;
      num = num * length + days * den;
      den *= length;
      const common = greatestCommonDivisor(num, den);
      num /= common;
      den /= common;
    }
    return { num, den: den * perYear };
  },
};

function greatestCommonDivisor(a: number, b: number): number {
  while (b !== 0) [a, b] = [b, a % b];
  return a;
}
