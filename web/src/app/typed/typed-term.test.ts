import { parseDay, type Frequency } from '@coffer/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readTerm } from './typed-term';

const day = (text: string): number => parseDay(text) as number;
const of = (every: Frequency, first = '2026-02-15') => ({ every, keepMonthEnd: false, first: day(first) });

describe('a term that is typed', () => {
  it.each([
    ['84', 'month', 84],
    ['7 years', 'month', 84],
    ['7y', 'quarter', 28],
    ['2½ years', 'half-year', 5],
    ['18 months', 'quarter', 6],
    ['20 quarters', 'month', 60],
    ['52 weeks', 'week', 52],
    ['to 15 jan 33', 'month', 84],
    // The last one due by then.
    ['until 20 jan 2033', 'month', 84],
    ['to 14 jan 33', 'month', 83],
    ['to 15 feb 26', 'month', 1],
  ] as const)('%s, paid each %s: %s', (typed, every, payments) => {
    expect(readTerm(typed, of(every))).toBe(payments);
  });

  it.each([
    ['18 months', 'year'],
    ['0 years', 'month'],
    ['to 1 jan 26', 'month'],
    ['to 30 feb 33', 'month'],
    ['seven years', 'month'],
    ['-3', 'month'],
    ['', 'month'],
  ] as const)('%s, paid each %s, is none', (typed, every) => {
    expect(readTerm(typed, of(every))).toBeUndefined();
  });

  it('of whole years is that many times the payments of a year, and ends on the day before the next would begin', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 40 }),
        fc.constantFrom<Frequency>('month', 'quarter', 'half-year', 'year'),
        (years, every) => {
          const perYear = { month: 12, quarter: 4, 'half-year': 2, year: 1 }[every as 'month'];
          expect(readTerm(`${years} years`, of(every))).toBe(years * perYear);
          // The first payment falls due a period before those of the next year end on its day.
          expect(readTerm(`to 14 feb ${2026 + years}`, of(every))).toBe(years * perYear);
        },
      ),
    );
  });
});
