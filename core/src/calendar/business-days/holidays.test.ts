import { describe, expect, it } from 'vitest';
import { formatDay, parseDay, type CalendarDay } from '../calendar-day.ts';
import { isBusinessDay, type BusinessCalendar } from './business-days.ts';
import { easterSunday } from './easter.ts';

const open = (date: string, calendar: BusinessCalendar): boolean =>
  isBusinessDay(parseDay(date) as CalendarDay, calendar);

describe('Easter', () => {
  // Ecclesiastical tables (from memory): the earliest and latest of two centuries, years that end a cycle of nineteen
  // (2014, 2033), and the four in which the paschal full moon is moved (1954, 1981, 2049, 2076).
  it.each([
    ...['1954-04-18', '1981-04-19', '1999-04-04', '2000-04-23', '2008-03-23', '2011-04-24', '2014-04-20'],
    ...['2019-04-21', '2024-03-31', '2026-04-05', '2033-04-17', '2038-04-25', '2049-04-18', '2076-04-19'],
  ])('is on %s', (sunday) => {
    expect(formatDay(easterSunday(Number(sunday.slice(0, 4))))).toBe(sunday);
  });
});

describe('TARGET', () => {
  // European Central Bank, TARGET closing days: 1999 knew New Year and Christmas alone, besides 31 December; 2000 came
  // with Good Friday, Easter Monday, 1 May and 26 December; 2001 closed on 31 December once more, 2002 did not.
  it.each([
    ['1998-12-31', false],
    ['1999-04-02', true],
    ['1999-04-05', true],
    ['1999-12-31', false],
    ['2000-04-21', false],
    ['2000-04-24', false],
    ['2000-05-01', false],
    ['2000-12-26', false],
    ['2001-10-31', true],
    ['2001-12-31', false],
    ['2002-12-31', true],
    ['2026-12-31', true],
  ])('on %s is open: %s', (date, expected) => {
    expect(open(date, 'TARGET')).toBe(expected);
  });
});

describe('the Federal Reserve Banks', () => {
  // Federal Reserve Banks, Holiday Schedules for 2026: each holiday, and the same weekday before or after it.
  it.each([
    ['2026-01-01', '2026-01-02'],
    ['2026-01-19', '2026-01-12'],
    ['2026-02-16', '2026-02-09'],
    ['2026-05-25', '2026-05-18'],
    ['2026-06-19', '2026-06-12'],
    ['2026-09-07', '2026-09-14'],
    ['2026-10-12', '2026-10-05'],
    ['2026-11-11', '2026-11-18'],
    ['2026-11-26', '2026-11-19'],
    ['2026-12-25', '2026-12-24'],
  ])('are closed on %s and open on %s', (holiday, ordinary) => {
    expect(open(holiday, 'US Federal Reserve')).toBe(false);
    expect(open(ordinary, 'US Federal Reserve')).toBe(true);
  });

  // The birthday of Martin Luther King, Jr. from 1986; Juneteenth, law since 17 June 2021, from 2022.
  it('keep holidays from the year that brought them', () => {
    expect(open('1985-01-21', 'US Federal Reserve')).toBe(true);
    expect(open('1986-01-20', 'US Federal Reserve')).toBe(false);
    expect(open('2020-06-19', 'US Federal Reserve')).toBe(true);
    expect(open('2023-06-19', 'US Federal Reserve')).toBe(false);
  });
});
