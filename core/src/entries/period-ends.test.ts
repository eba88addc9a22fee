import { describe, expect, it } from 'vitest';
import { formatDay, parseDay } from '../calendar/calendar-day.ts';
import { periodEndBefore, periodEnds, type PeriodLength } from './period-ends.ts';

const day = (text: string): number => parseDay(text) as number;
const ends = (length: PeriodLength, from: string, to: string): string[] =>
  periodEnds(length, day(from), day(to)).map(formatDay);

// Common practice: reporting periods end on the last day of calendar months, quarters and years.
describe('period ends', () => {
  it('are the last days of months, both ends of the span included', () => {
    expect(ends('month', '2024-01-31', '2024-04-30')).toEqual([
      '2024-01-31',
      '2024-02-29',
      '2024-03-31',
      '2024-04-30',
    ]);
    expect(ends('month', '2024-02-01', '2024-02-28')).toEqual([]);
  });

  it('are quarters and years where those are asked for, and none for none', () => {
    expect(ends('quarter', '2024-01-01', '2025-01-01')).toEqual([
      '2024-03-31',
      '2024-06-30',
      '2024-09-30',
      '2024-12-31',
    ]);
    expect(ends('year', '2023-06-01', '2025-06-01')).toEqual(['2023-12-31', '2024-12-31']);
    expect(ends('none', '2023-06-01', '2025-06-01')).toEqual([]);
  });

  it('follow the end of the period before', () => {
    expect(formatDay(periodEndBefore('month', day('2024-03-31')))).toBe('2024-02-29');
    expect(formatDay(periodEndBefore('quarter', day('2024-03-31')))).toBe('2023-12-31');
    expect(formatDay(periodEndBefore('year', day('2024-12-31')))).toBe('2023-12-31');
  });
});
