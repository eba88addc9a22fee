import { describe, expect, it } from 'vitest';
import { formatDay } from '../calendar/calendar-day.ts';
import { day } from '../testing/plain-loan.ts';
import { billsThrough, openLineEnds } from './credit-line-bills.ts';

// Common practice: a line is billed each month, and one without a maturity a year further than anything is known of it.
describe('the bills of a credit line', () => {
  it('go on for a year after the last event of a line without a maturity, a month end staying one', () => {
    const ends = (start: string, ...events: string[]): string =>
      formatDay(openLineEnds(day(start), events.map(day)));
    expect(ends('2025-01-15')).toBe('2026-01-15');
    expect(ends('2025-01-15', '2025-09-10', '2025-03-01')).toBe('2026-09-10');
    expect(ends('2025-01-15', '2024-12-31')).toBe('2026-01-15');
    expect(ends('2027-02-28')).toBe('2028-02-29');
  });

  it('are monthly from the first through the last day, on which there is one whether it is regular or not', () => {
    const bills = (first: string, ends: string): unknown => {
      const { count, regular } = billsThrough(day(first), day(ends));
      return [count, regular];
    };
    expect(bills('2025-01-31', '2025-01-31')).toEqual([1, true]);
    // January to April at month ends, the last of them on the last day.
    expect(bills('2025-01-31', '2025-04-30')).toEqual([4, true]);
    expect(bills('2025-02-28', '2025-04-30')).toEqual([3, true]);
    // The day before there are three regular ones and one for what is left; the day after one more.
    expect(bills('2025-01-31', '2025-04-29')).toEqual([4, false]);
    expect(bills('2025-01-31', '2025-05-01')).toEqual([5, false]);
    expect(bills('2025-01-15', '2025-01-16')).toEqual([2, false]);
    // A line that ends before its first bill has that one alone.
    expect(bills('2025-01-15', '2025-01-10')).toEqual([1, false]);
  });
});
