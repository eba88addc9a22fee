import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseDay, type CalendarDay } from '../calendar-day.ts';
import { regularPeriod } from '../interest-period.ts';
import { dayCounts, type DayCountName } from './day-counts.ts';

const day = (text: string): CalendarDay => parseDay(text) as CalendarDay;
const counted = (rule: DayCountName, from: string, to: string): number =>
  dayCounts[rule].days(day(from), day(to));
const names = Object.keys(dayCounts) as DayCountName[];

describe('days that a rule counts', () => {
  // 2006 ISDA Definitions, section 4.16: actual days, or twelve months of thirty.
  it.each([
    ['ACT/360', '2024-01-31', '2024-03-31', 60],
    ['ACT/365F', '2024-01-31', '2024-03-31', 60],
    ['ACT/ACT-ISDA', '2024-01-31', '2024-03-31', 60],
    ['ACT/ACT-ICMA', '2024-01-31', '2024-03-31', 60],
    ['even-periods', '2024-01-31', '2024-03-31', 60],
    ['30/360', '2024-01-31', '2024-03-31', 60],
    ['30/360', '2024-01-15', '2024-03-31', 76],
    ['30E/360', '2024-01-15', '2024-03-31', 75],
    ['30E/360-ISDA', '2024-01-31', '2024-02-29', 30],
  ] as const)('by %s from %s to %s are %i', (rule, from, to, days) => {
    expect(counted(rule, from, to)).toBe(days);
  });

  // Common practice: what has accrued to a cut and what accrues from it are the period's, on whatever day it is cut.
  it('in pieces of a period are those of the period', () => {
    const drawn = fc.record({
      rule: fc.constantFrom(...names),
      from: fc.integer({ min: day('2019-12-01'), max: day('2024-12-31') }),
      lengths: fc.tuple(fc.nat(120), fc.nat(120), fc.nat(120)),
      ends: fc.boolean(),
    });
    fc.assert(
      fc.property(drawn, ({ rule, from, lengths: [a, b, c], ends }) => {
        const to = from + a + b + c;
        const period = regularPeriod(from, to, { num: 1, den: 4 }, ends ? to : undefined);
        const days = (start: CalendarDay, end: CalendarDay): number =>
          dayCounts[rule].days(start, end, period);
        expect(days(from, from + a) + days(from + a, from + a + b) + days(from + a + b, to)).toBe(
          days(from, to),
        );
        expect(days(from + a, from + a + b)).toBeGreaterThanOrEqual(0);
      }),
    );
  });

  // From 15 January to the 31st are sixteen days by 30/360, from 15 January to 15 February thirty.
  it('after a 31st make up for it', () => {
    const period = regularPeriod(day('2025-01-15'), day('2025-02-15'), { num: 1, den: 12 });
    const days = (from: string, to: string): number => dayCounts['30/360'].days(day(from), day(to), period);
    expect([days('2025-01-15', '2025-01-31'), days('2025-01-31', '2025-02-15')]).toEqual([16, 14]);
    expect(dayCounts['30/360'].years(day('2025-01-31'), day('2025-02-15'), period)).toEqual({
      num: 14,
      den: 360,
    });
    expect(counted('30/360', '2025-01-31', '2025-02-15')).toBe(15);
  });
});

describe('the share of a year by ACT/ACT-ISDA', () => {
  const years = (from: string, to: string): unknown =>
    dayCounts['ACT/ACT-ISDA'].years(
      day(from),
      day(to),
      regularPeriod(day(from), day(to), { num: 1, den: 1 }),
    );

  // 2006 ISDA Definitions, section 4.16(b): the days in a leap year over 366 and the others over 365, each told apart.
  it('is over the year that it lies in, and over both where it lies in two', () => {
    expect(years('2025-01-01', '2025-02-01')).toEqual({ num: 31, den: 365 });
    expect(years('2024-01-01', '2024-02-01')).toEqual({ num: 31, den: 366 });
    expect(years('2024-12-01', '2025-01-01')).toEqual({ num: 31, den: 366 });
    expect(years('2024-12-31', '2025-01-02')).toEqual({ num: 366 + 365, den: 365 * 366 });
  });
});
