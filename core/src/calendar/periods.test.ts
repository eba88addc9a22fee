import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  addMonths,
  daysInMonth,
  formatDay,
  isLeapYear,
  monthEnd,
  parseDay,
  type CalendarDay,
} from './calendar-day.ts';
import { evenYears } from './even-years.ts';
import { interestPeriodOf, lastPeriodOf, regularPeriod } from './interest-period.ts';
import { monthsBetween } from './months-between.ts';
import { cycleDate, cycleDates, cycleIndexOnOrAfter, type DateCycle } from './payment-dates.ts';

const day = (text: string): CalendarDay => parseDay(text) as CalendarDay;
const anyDay = fc.integer({ min: day('1900-01-01'), max: day('2199-12-31') });
const cycle = (anchor: string, every: DateCycle['every'], keepMonthEnd = false): DateCycle => ({
  anchor: day(anchor),
  every,
  keepMonthEnd,
});
const dates = (of: DateCycle, from: number, to: number): string[] =>
  Array.from({ length: to - from + 1 }, (_, at) => formatDay(cycleDate(of, from + at)));

describe('months from one day to another', () => {
  // Common practice: month end to month end is whole; else a month is whole on the same day of the month.
  it.each([
    ['2025-01-15', '2025-02-14', 0],
    ['2025-01-15', '2025-02-15', 1],
    ['2025-01-31', '2025-02-27', 0],
    ['2025-01-31', '2025-02-28', 1],
    ['2024-12-31', '2025-02-28', 2],
    ['2024-02-29', '2025-02-28', 12],
    ['2024-02-29', '2025-02-27', 11],
    ['2024-12-15', '2025-01-15', 1],
    ['2025-06-15', '2025-06-15', 0],
    ['2025-06-15', '2025-03-15', -3],
    ['2025-06-15', '2025-03-16', -2],
  ])('%s to %s are %i whole ones', (from, to, months) => {
    expect(monthsBetween(day(from), day(to))).toBe(months);
  });

  it('are as many as can be gone without passing it', () => {
    fc.assert(
      fc.property(anyDay, fc.nat(4000), (from, days) => {
        const months = monthsBetween(from, from + days);
        expect(addMonths(from, months)).toBeLessThanOrEqual(from + days);
        expect(addMonths(from, months + 1)).toBeGreaterThan(from + days);
      }),
    );
  });
});

describe('the days of months', () => {
  // The Gregorian reform of 1582: of the centuries only every fourth is a leap year.
  it('are those of the Gregorian calendar', () => {
    expect([1900, 2000, 2023, 2024, 2100, 2400].map(isLeapYear)).toEqual([
      false,
      true,
      false,
      true,
      false,
      true,
    ]);
    const of = (year: number): number[] => Array.from({ length: 12 }, (_, at) => daysInMonth(year, at + 1));
    expect(of(2023)).toEqual([31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31]);
    expect(of(2024)[1]).toBe(29);
    expect(
      ['2024-02-01', '2023-02-28', '2023-12-31', '2024-01-01'].map((on) => formatDay(monthEnd(day(on)))),
    ).toEqual(['2024-02-29', '2023-02-28', '2023-12-31', '2024-01-31']);
  });

  it('end where months are added, and stay at the end where it is kept', () => {
    const added = (on: string, months: number, keep: boolean): string =>
      formatDay(addMonths(day(on), months, keep));
    expect(added('2025-01-30', 1, true)).toBe('2025-02-28');
    expect(added('2025-02-28', 1, true)).toBe('2025-03-31');
    expect(added('2025-02-28', 1, false)).toBe('2025-03-28');
    expect(added('2025-02-27', 1, true)).toBe('2025-03-27');
    expect(added('2025-01-15', -1, false)).toBe('2024-12-15');
    expect(added('2025-03-31', -13, false)).toBe('2024-02-29');
  });
});

describe('dates twice a month', () => {
  // The days of the rule: the anchor's and fifteen days from it, the month's last where it is shorter.
  it.each([
    ['2025-01-01', false, ['2025-01-01', '2025-01-16', '2025-02-01', '2025-02-16', '2025-03-01']],
    ['2025-01-15', false, ['2025-01-15', '2025-01-30', '2025-02-15', '2025-02-28', '2025-03-15']],
    ['2025-01-16', false, ['2025-01-16', '2025-02-01', '2025-02-16', '2025-03-01', '2025-03-16']],
    ['2025-01-25', false, ['2025-01-25', '2025-02-10', '2025-02-25', '2025-03-10', '2025-03-25']],
    ['2025-01-31', false, ['2025-01-31', '2025-02-16', '2025-02-28', '2025-03-16', '2025-03-31']],
    ['2025-02-28', true, ['2025-02-28', '2025-03-15', '2025-03-31', '2025-04-15', '2025-04-30']],
    ['2025-02-28', false, ['2025-02-28', '2025-03-13', '2025-03-28', '2025-04-13', '2025-04-28']],
    ['2024-11-14', true, ['2024-11-14', '2024-11-29', '2024-12-14', '2024-12-29', '2025-01-14']],
  ])('from %s (kept at the month end: %s)', (anchor, keep, expected) => {
    const of = cycle(anchor, 'half-month', keep);
    expect(dates(of, 0, 4)).toEqual(expected);
    expect([...cycleDates(of, 5)].map(formatDay)).toEqual(expected);
  });

  it('by weeks are so many days apart', () => {
    expect(dates(cycle('2025-12-29', 'week'), -1, 1)).toEqual(['2025-12-22', '2025-12-29', '2026-01-05']);
    expect(dates(cycle('2025-12-29', 'two-weeks'), -1, 1)).toEqual([
      '2025-12-15',
      '2025-12-29',
      '2026-01-12',
    ]);
    expect(cycleIndexOnOrAfter(cycle('2025-12-29', 'two-weeks'), day('2026-01-13'))).toBe(2);
  });
});

describe('an interest period', () => {
  it('is regular between dates of its cycle, and knows no other boundary', () => {
    const period = interestPeriodOf(cycle('2025-01-31', 'month', true), day('2025-02-28'), day('2025-03-31'));
    expect(period).toStrictEqual({
      from: day('2025-02-28'),
      to: day('2025-03-31'),
      evenYears: { num: 1, den: 12 },
      perYear: 12,
      boundaries: [day('2025-02-28'), day('2025-03-31')],
    });
    expect(regularPeriod(1, 2, { num: 1, den: 4 })).toStrictEqual({
      from: 1,
      to: 2,
      evenYears: { num: 1, den: 4 },
      perYear: 4,
      boundaries: [1, 2],
    });
    expect(regularPeriod(1, 2, { num: 1, den: 4 }, 9).termination).toBe(9);
  });

  it('keeps the day of its cycle where a month before its end is longer', () => {
    const period = interestPeriodOf(cycle('2025-01-31', 'month'), day('2025-01-31'), day('2025-02-28'));
    expect(period.boundaries.map(formatDay)).toEqual(['2025-01-31', '2025-02-28']);
  });

  it('is counted back from its end where that is no date of the cycle', () => {
    const period = interestPeriodOf(
      cycle('2025-01-31', 'quarter', true),
      day('2025-01-31'),
      day('2025-05-02'),
      7,
    );
    expect(period.boundaries.map(formatDay)).toEqual(['2024-11-02', '2025-02-02', '2025-05-02']);
    // Two days of the 92 from 2 November to 2 February, and a whole quarter.
    expect(period.evenYears).toEqual({ num: 92 + 2, den: 92 * 4 });
    expect(period.termination).toBe(7);
  });

  it('of no days is nothing', () => {
    const on = day('2025-03-10');
    expect(interestPeriodOf(cycle('2025-01-31', 'month'), on, on).evenYears).toEqual({ num: 0, den: 12 });
    expect(evenYears(cycle('2025-03-10', 'month'), on, on)).toEqual({ num: 0, den: 12 });
  });

  it('that is the last and odd is counted on from where it begins', () => {
    const monthly = cycle('2025-01-15', 'month');
    const last = lastPeriodOf(monthly, day('2025-03-15'), day('2025-05-01'));
    expect(last.boundaries.map(formatDay)).toEqual(['2025-03-15', '2025-04-15', '2025-05-15']);
    // A whole month, and sixteen days of the thirty from 15 April.
    expect(last.evenYears).toEqual({ num: 30 + 16, den: 30 * 12 });
    expect('termination' in last).toBe(false);
    const short = lastPeriodOf(monthly, day('2025-03-15'), day('2025-03-31'), 9);
    expect([short.evenYears, short.perYear, short.termination]).toEqual([{ num: 16, den: 31 * 12 }, 12, 9]);
    const whole = lastPeriodOf(monthly, day('2025-03-15'), day('2025-04-15'));
    expect(whole.evenYears).toEqual({ num: 31, den: 31 * 12 });
  });

  // Common practice: from a month's last day to another's is so many whole periods, whatever the days.
  it('from a month end to a month end is whole, though no date of the cycle', () => {
    expect(evenYears(cycle('2025-02-28', 'month'), day('2025-01-31'), day('2025-02-28'))).toEqual({
      num: 1,
      den: 12,
    });
    expect(evenYears(cycle('2025-02-28', 'month'), day('2024-12-31'), day('2025-02-28'))).toEqual({
      num: 2,
      den: 12,
    });
    expect(evenYears(cycle('2025-02-28', 'year'), day('2024-02-29'), day('2025-02-28'))).toEqual({
      num: 1,
      den: 1,
    });
  });
});
