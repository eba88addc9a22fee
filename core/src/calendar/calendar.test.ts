import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ratio } from '../money/ratio.ts';
import { roundRatio } from '../money/round-ratio.ts';
import { addMonths, calendarFields, formatDay, parseDay, type CalendarDay } from './calendar-day.ts';
import { dayCounts, type DayCountName } from './day-counts/day-counts.ts';
import {
  businessDay,
  businessDayRules,
  isBusinessDay,
  type BusinessCalendar,
} from './business-days/business-days.ts';
import { evenYears } from './even-years.ts';
import { interestPeriodOf } from './interest-period.ts';
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
      '2026-00-01',
      '2026-01-00',
      '0000-01-01',
      '2026-1-1',
      '12026-01-01',
      '2026-01-01T00:00',
      '15/10/2026',
      '',
    ]) {
      expect(parseDay(text), text).toBeUndefined();
    }
    expect(formatDay(day('0001-01-01'))).toBe('0001-01-01');
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
  // 2006 ISDA Definitions 4.16(b) to (h), ICMA rule 251; reference/day-counts.csv.
  const columns: [DayCountName, number][] = [
    ['30/360', 3],
    ['30E/360', 4],
    ['30E/360-ISDA', 5],
    ['30E/360-ISDA', 6],
    ['ACT/360', 7],
    ['ACT/365F', 8],
    ['ACT/ACT-ISDA', 9],
    ['ACT/ACT-ICMA', 10],
  ];
  it.each(columns)('%s equals every row of the table, column %i', (name, column) => {
    const rows = table('day-counts.csv').filter((row) => row[column] !== '');
    expect(rows).toHaveLength(name === 'ACT/ACT-ICMA' ? 261 : 300);
    for (const row of rows) {
      const [from, to, starts, ends] = [row[1], row[2], row[11] || row[1], row[12] || row[2]].map((text) =>
        day(text ?? ''),
      ) as [number, number, number, number];
      const period = {
        from,
        to,
        evenYears: { num: 1, den: 1 },
        perYear: Number(row[13] || 1),
        boundaries: [starts, ends],
        ...(column === 6 && { termination: to }),
      };
      const { num, den } = dayCounts[name].years(from, to, period);
      const digits = roundRatio(ratio(BigInt(num) * 10n ** 15n, BigInt(den)), 'away-from-zero');
      expect(digits, row[0]).toBe(BigInt((row[column] ?? '').replace('.', '')));
    }
  });

  // ICMA rule 251, a long first period: 15 Feb to 1 Jul 2005 on half-yearly periods ending 1 January and 1 July is
  // 136 of the 181 days of one period; a start on 15 November adds 47 of the 184 days of the period before.
  it('ACT/ACT-ICMA takes a long first period apart', () => {
    const cycle: DateCycle = { anchor: day('2005-07-01'), every: 'half-year', keepMonthEnd: false };
    const years = (from: string): unknown => {
      const period = interestPeriodOf(cycle, day(from), day('2005-07-01'));
      return dayCounts['ACT/ACT-ICMA'].years(period.from, period.to, period);
    };
    expect(years('2005-02-15')).toEqual({ num: 136, den: 181 * 2 });
    expect(years('2004-11-15')).toEqual({ num: 47 + 184, den: 184 * 2 });
  });

  // Common practice: 17 days before a first full month of 31 days counts 1 + 17/31 months.
  it('even periods count an odd first period back from the first payment', () => {
    const cycle: DateCycle = { anchor: day('2024-03-15'), every: 'month', keepMonthEnd: false };
    expect(evenYears(cycle, day('2024-02-15'), day('2024-03-15'))).toEqual({ num: 1, den: 12 });
    expect(evenYears(cycle, day('2024-01-29'), day('2024-03-15'))).toEqual({ num: 31 + 17, den: 31 * 12 });
    expect(evenYears(cycle, day('2024-03-01'), day('2024-03-15'))).toEqual({ num: 14, den: 29 * 12 });
  });
});

describe('payment dates', () => {
  // reference/date-cycles.csv: QuantLib schedules, counted forward or back, with odd first and last periods.
  it('equal the library schedules', () => {
    const every: Record<string, Frequency> = {
      '1M': 'month',
      '2M': 'two-months',
      '3M': 'quarter',
      '4M': 'four-months',
      '6M': 'half-year',
      '1Y': 'year',
    };
    const rows = table('date-cycles.csv');
    expect(rows).toHaveLength(42);
    for (const [id = '', start = '', end = '', tenor = '', monthEnd, from, first, last, dates = ''] of rows) {
      const forward = from === 'start';
      const [opens, closes] = [first || start, last || end];
      const cycle: DateCycle = {
        anchor: day(forward ? opens : closes),
        every: every[tenor] as Frequency,
        keepMonthEnd: monthEnd === 'True',
      };
      const regular = Array.from({ length: 100 }, (_, at) => cycleDate(cycle, forward ? at : -at))
        .filter((date) => date >= day(opens) && date <= day(closes))
        .map(formatDay);
      const all = new Set([start, ...regular, ...(first ? [first] : []), end]);
      expect([...all].sort(), id).toEqual(dates.split(' '));
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

describe('business days', () => {
  // ECB TARGET closing days and Federal Reserve holiday schedules; reference/business-days.csv.
  it('open, close and move as the table says', () => {
    const rows = table('business-days.csv');
    expect(rows).toHaveLength(400);
    for (const [id = '', date = '', calendar = '', open = '', following, modified, preceding] of rows) {
      const banks = calendar as BusinessCalendar;
      expect(isBusinessDay(day(date), banks), id).toBe(open === '1');
      const moved = businessDayRules.map((rule) => formatDay(businessDay(day(date), rule, banks)));
      expect(moved, id).toEqual([following, modified, preceding]);
    }
  });

  // Federal Reserve Banks: "for holidays falling on Saturday … will be open the preceding Friday".
  it('do not move a Saturday holiday to Friday', () => {
    for (const friday of ['2027-06-18', '2021-12-24', '2026-07-03', '2023-11-10']) {
      expect(isBusinessDay(day(friday), 'US Federal Reserve'), friday).toBe(true);
    }
    expect(isBusinessDay(day('2022-06-20'), 'US Federal Reserve')).toBe(false);
  });

  // Common practice: a bank holiday of one place is closed as the calendar's own are, and is moved over with them.
  it('closed besides those of the calendar are moved over as its own are', () => {
    const closed = new Set([day('2026-12-24'), day('2026-12-31')]);
    const moved = (date: string): string[] =>
      businessDayRules.map((rule) => formatDay(businessDay(day(date), rule, 'TARGET', closed)));
    // Thursday the 24th, Christmas on Friday, then a weekend.
    expect(moved('2026-12-24')).toEqual(['2026-12-28', '2026-12-28', '2026-12-23']);
    // New Year's Eve and New Year's Day before a weekend: the next one is in another year.
    expect(moved('2026-12-31')).toEqual(['2027-01-04', '2026-12-30', '2026-12-30']);
    fc.assert(
      fc.property(fc.integer({ min: 10_000, max: 30_000 }), fc.uniqueArray(fc.nat(30)), (on, after) => {
        const besides = new Set(after.map((days) => (on + days) as CalendarDay));
        const next = businessDay(on as CalendarDay, 'following', 'weekends', besides);
        for (let each = on; each < next; each += 1)
          expect((each + 3) % 7 > 4 || besides.has(each as CalendarDay)).toBe(true);
        expect((next + 3) % 7 <= 4 && !besides.has(next)).toBe(true);
      }),
    );
  });
});
