import {
  dateHabits,
  inHabits,
  numberHabits,
  showAmount,
  showDay,
  usualHabits,
  type DateHabit,
  type NumberHabit,
} from '@coffer/contract';
import { formatDay, parseAmount, parseDay, type CalendarDay } from '@coffer/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { asTabSeparated } from '../figures/tab-separated';
import { readDay } from './typed-day';
import { readPartOf } from './part-of';
import { readNumber, readPercent } from './typed-number';

// Common practice: how amounts, rates and dates are written in agreements and typed from them.
describe('what people type', () => {
  it.each([
    ['1,250,000', '1250000'],
    ['1 250 000.50', '1250000.50'],
    ['1.2m', '1200000'],
    ['350k', '350000'],
    ['0.5 bn', '500000000'],
    ['007', '7'],
  ])('%s is the amount %s', (typed, plain) => expect(readNumber(typed)).toBe(plain));

  it.each(['', '-5', '1,25', '1.2.3', 'abc', '1e5', '12,3456'])('%s is no amount', (typed) =>
    expect(readNumber(typed)).toBeUndefined(),
  );

  it.each([
    ['6.1', '6.1'],
    ['6.10 %', '6.10'],
    ['.5', '0.5'],
    ['6 1/8', '6.125'],
    ['5½%', '5.5'],
    ['1/64', '0.015625'],
  ])('%s is %s percent', (typed, plain) => expect(readPercent(typed)).toBe(plain));

  it.each([
    ['15%', '248,000', 'EUR', '37200.00'],
    ['12 1/2 %', '99,999', 'EUR', '12499.88'],
    ['10%', '1,005', 'JPY', '101'],
  ])('%s of %s in %s is %s', (part, whole, currency, plain) =>
    expect(readPartOf(part, whole, currency)).toBe(plain),
  );

  it.each([
    ['15', '248,000'],
    ['15%', ''],
    ['101%', '248,000'],
  ])('“%s” of “%s” is no part', (part, whole) => expect(readPartOf(part, whole, 'EUR')).toBeUndefined());

  it.each(['6 1/3', '6 9/8', 'six'])('%s is no exact percentage', (typed) =>
    expect(readPercent(typed)).toBeUndefined(),
  );

  it.each([
    ['2026-06-15', '2026-06-15'],
    ['15 jun 26', '2026-06-15'],
    ['15 June 2026', '2026-06-15'],
    ['15.6.2026', '2026-06-15'],
    ['jun 2026', '2026-06-01'],
  ])('%s is the day %s', (typed, day) => {
    const read = readDay(typed);
    expect(read === undefined ? '' : formatDay(read)).toBe(day);
  });

  it.each(['30 feb 2026', '2026-02-30', '31.4.2026', 'yesterday', '15 xyz 2026', '15 junk 2026'])(
    '%s is no day',
    (typed) => expect(readDay(typed)).toBeUndefined(),
  );

  it.each([
    ['28 oct', '2026-10-15', '2026-10-28'],
    ['28.10.', '2026-10-15', '2026-10-28'],
    ['3 jan', '2026-12-20', '2027-01-03'],
    ['30.12', '2027-01-04', '2026-12-30'],
    ['29 feb', '2027-03-01', '2028-02-29'],
    ['28 oct 25', '2026-10-15', '2025-10-28'],
    ['31 nov', '2026-11-15', ''],
    ['28', '2026-10-15', ''],
  ])('%s typed near %s is %s', (typed, near, day) => {
    const read = readDay(typed, parseDay(near));
    expect(read === undefined ? '' : formatDay(read)).toBe(day);
  });
});

const inNumbers = (numbers: NumberHabit, dates: DateHabit = 'day-name') => ({
  ...usualHabits,
  numbers,
  dates,
});

// Common practice: a comma before decimals on the continent, an apostrophe between thousands in Swiss accounts.
describe('what people type where the company writes another way', () => {
  it.each<[NumberHabit, string, string | undefined]>([
    ['point-comma', '1.250.000,50', '1250000.50'],
    ['point-comma', '1250,5', '1250.5'],
    ['point-comma', '1.250', '1250'],
    ['point-comma', '1,2m', '1200000'],
    ['point-comma', '1.25', undefined],
    ['space-comma', '1 250 000,50', '1250000.50'],
    ['space-comma', '1\u00A0250,00', '1250.00'],
    ['apostrophe-point', '1’250’000.50', '1250000.50'],
    // Written another way, these can mean one thing only.
    ['point-comma', '1,250,000.50', '1250000.50'],
    ['comma-point', '1.250.000,50', '1250000.50'],
    ['comma-point', '1.250.000', '1250000'],
    ['comma-point', '1 250 000,50', '1250000.50'],
    // These could mean two: what the company writes counts, and what it never writes is not understood.
    ['comma-point', '1,250', '1250'],
    ['comma-point', '1,25', undefined],
  ])('%s: %s is %s', (numbers, typed, plain) => {
    inHabits(inNumbers(numbers), () => expect(readNumber(typed)).toBe(plain));
  });

  it('a percentage has no thousands: a comma and a point both stand before decimals', () => {
    for (const numbers of ['comma-point', 'point-comma'] as const) {
      inHabits(inNumbers(numbers), () => {
        expect(['6,125', '6.125%', '6 1/8'].map((typed) => readPercent(typed))).toEqual([
          '6.125',
          '6.125',
          '6.125',
        ]);
      });
    }
  });

  it('of numbers alone the day comes first, or the month where the company writes it first', () => {
    const read = (dates: DateHabit, typed: string): string =>
      inHabits(inNumbers('comma-point', dates), () => formatDay(readDay(typed) ?? 0));
    expect(read('day-name', '3/4/26')).toBe('2026-04-03');
    expect(read('month-first', '3/4/26')).toBe('2026-03-04');
    expect(read('month-first', 'june 15, 2026')).toBe('2026-06-15');
    expect(read('month-first', '2026-06-15')).toBe('2026-06-15');
  });

  it('what is shown is read as it was, by every habit', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 10 ** 14 }),
        fc.integer({ min: 0, max: 60_000 }),
        fc.constantFrom(...(Object.keys(numberHabits) as NumberHabit[])),
        fc.constantFrom(...(Object.keys(dateHabits) as DateHabit[])),
        (minor, day, numbers, dates) => {
          inHabits(inNumbers(numbers, dates), () => {
            expect(parseAmount(readNumber(showAmount(minor, 2)) ?? '', 2)).toBe(minor);
            expect(readDay(showDay(day as CalendarDay))).toBe(day);
          });
        },
      ),
    );
  });

  it('figures that are copied keep the mark of the company and lose what is between thousands', () => {
    inHabits({ ...inNumbers('point-comma'), belowZero: 'parentheses' }, () => {
      expect(asTabSeparated([[showAmount(-123_456_789, 2), showAmount(5, 2)]])).toBe('-1234567,89\t0,05');
    });
  });
});
