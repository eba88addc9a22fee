import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ratio } from '../money/ratio.ts';
import { roundRatio } from '../money/round-ratio.ts';
import { addMonths, calendarFields, formatDay, parseDay } from './calendar-day.ts';
import { dayCounts, type DayCountName } from './day-counts/day-counts.ts';
import { evenYears } from './even-years.ts';
import { frequencies, type Frequency } from './frequency.ts';
import { cycleDate, cycleDates, cycleIndexOnOrAfter, type DateCycle } from './payment-dates.ts';

const day = (text: string): number => parseDay(text) as number;
const table = (file: string): string[][] =>
  readFileSync(new URL(`../../reference/${file}`, import.meta.url), 'utf8')
    .trim()
    .split('\n')
    .slice(1)
    .map((line) => line.split(','));

const anyDay = fc.integer({ min: day('1900-01-01'), max: day('2199-12-31') });
const anyCycle: fc.Arbitrary<DateCycle> = fc.record({
  anchor: anyDay,
  every: fc.constantFrom<Frequency>(...frequencies),
  keepMonthEnd: fc.boolean(),
});

describe('calendar days', () => {
  // ECMA-262 section 21.4.1: the language's own proleptic Gregorian calendar, in UTC.
  it('agree with the language over three centuries', () => {
    fc.assert(
      fc.property(anyDay, (value) => {
        const date = new Date(value * 86_400_000);
        expect(formatDay(value)).toBe(date.toISOString().slice(0, 10));
        expect(parseDay(formatDay(value))).toBe(value);
        expect(calendarFields(value).month).toBe(date.getUTCMonth() + 1);
      }),
    );
  });

  it('refuse dates that do not exist and other forms', () => {
    for (const text of [
      '2026-02-30',
      '2025-02-29',
      '1900-02-29',
      '2026-13-01',
      '2026-1-1',
      '15/10/2026',
      '',
    ]) {
      expect(parseDay(text), text).toBeUndefined();
    }
  });

  // Common practice: month ends stay month ends only where that is agreed.
  it('step by months to the last day where there is no such day', () => {
    expect(formatDay(addMonths(day('2024-01-31'), 1))).toBe('2024-02-29');
    expect(formatDay(addMonths(day('2024-02-29'), 12))).toBe('2025-02-28');
    expect(formatDay(addMonths(day('2026-02-28'), 12, true))).toBe('2027-02-28');
    expect(formatDay(addMonths(day('2023-02-28'), 12, true))).toBe('2024-02-29');
    expect(formatDay(addMonths(day('2023-02-28'), 12))).toBe('2024-02-28');
  });
});

describe('day counts', () => {
  // The table has a column for each rule that needs nothing but the two dates.
  const [header = ''] = readFileSync(
    new URL('../../reference/day-counts.csv', import.meta.url),
    'utf8',
  ).split('\n');
  const columns = header.split(',').slice(3) as DayCountName[];
  // 2006 ISDA Definitions 4.16(d), (e), (f); reference/day-counts.csv.
  it.each(columns.map((name, at) => [name, at + 3] as const))(
    '%s equals every row of the table',
    (name, column) => {
      const rows = table('day-counts.csv');
      expect(rows).toHaveLength(300);
      for (const row of rows) {
        const [from, to] = [day(row[1] ?? ''), day(row[2] ?? '')];
        const { num, den } = dayCounts[name].years(from, to, { from, to, evenYears: { num: 1, den: 1 } });
        const digits = roundRatio(ratio(BigInt(num) * 10n ** 15n, BigInt(den)), 'away-from-zero');
        expect(digits, row[0]).toBe(BigInt((row[column] ?? '').replace('.', '')));
      }
    },
  );

  // Common practice: 17 days before a first full month of 31 days counts 1 + 17/31 months.
  it('even periods count an odd first period back from the first payment', () => {
    const cycle: DateCycle = { anchor: day('2024-03-15'), every: 'month', keepMonthEnd: false };
    expect(evenYears(cycle, day('2024-02-15'), day('2024-03-15'))).toEqual({ num: 1, den: 12 });
    expect(evenYears(cycle, day('2024-01-29'), day('2024-03-15'))).toEqual({ num: 31 + 17, den: 31 * 12 });
    expect(evenYears(cycle, day('2024-03-01'), day('2024-03-15'))).toEqual({ num: 14, den: 29 * 12 });
  });
});

describe('payment dates', () => {
  // reference/date-cycles.csv: QuantLib schedules counted forward.
  it('equal the library schedules', () => {
    const every: Record<string, Frequency> = {
      '1M': 'month',
      '3M': 'quarter',
      '6M': 'half-year',
      '1Y': 'year',
    };
    for (const [id = '', anchor = '', tenor = '', monthEnd, dates = ''] of table('date-cycles.csv')) {
      const cycle = {
        anchor: day(anchor),
        every: every[tenor] as Frequency,
        keepMonthEnd: monthEnd === 'True',
      };
      const expected = dates.split(' ');
      expect([...cycleDates(cycle, expected.length)].map(formatDay), id).toEqual(expected);
    }
  });

  // Common practice: twice a month, on the 15th and the month's last day.
  it('fall twice a month', () => {
    const cycle: DateCycle = { anchor: day('2024-01-31'), every: 'half-month', keepMonthEnd: true };
    const dates = [...cycleDates(cycle, 5)].map(formatDay);
    expect(dates).toEqual(['2024-01-31', '2024-02-15', '2024-02-29', '2024-03-15', '2024-03-31']);
  });

  it('rise strictly, and are found again by day', () => {
    fc.assert(
      fc.property(anyCycle, fc.integer({ min: -300, max: 300 }), (cycle, index) => {
        const at = cycleDate(cycle, index);
        expect(cycleDate(cycle, index + 1)).toBeGreaterThan(at);
        expect(cycleIndexOnOrAfter(cycle, at)).toBe(index);
        expect(cycleIndexOnOrAfter(cycle, at + 1)).toBe(index + 1);
        if (index >= 0) expect(cycleDates(cycle, index + 1)[index]).toBe(at);
      }),
    );
  });
});
