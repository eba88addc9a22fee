import fc from 'fast-check';
import { parseAmount, parseDay, type CalendarDay } from '@coffer/core';
import { describe, expect, it } from 'vitest';
import { inHabits, usualHabits, type Habits } from './habits.ts';
import {
  showAmount,
  showRate,
  showShortDay,
  showText,
  showDay,
  showDecimal,
  showMonth,
  showMovement,
} from './show.ts';

describe('figures for people', () => {
  // Common practice in English accounts: thousands by comma, decimals by point, all of the currency's decimals.
  it.each([
    [134_188_004, 2, '1,341,880.04'],
    [0, 2, '0.00'],
    [5, 2, '0.05'],
    [-7, 2, '−0.07'],
    [1_234_567, 0, '1,234,567'],
    [1_234_567, 3, '1,234.567'],
    [999, 3, '0.999'],
  ])('%d with %d decimals is %s', (minor, digits, text) => expect(showAmount(minor, digits)).toBe(text));

  it('come back as the amount they were, however large', () => {
    fc.assert(
      fc.property(fc.maxSafeInteger(), fc.constantFrom(0, 2, 3), (minor, digits) => {
        const plain = showAmount(minor, digits).replaceAll(',', '').replace('−', '-');
        expect(parseAmount(plain, digits)).toBe(minor);
      }),
    );
  });

  it('show nothing moved as a dash, and a balance of nothing as zero', () => {
    expect([showMovement(0, 2), showAmount(0, 2), showMovement(1, 2)]).toEqual(['–', '0.00', '0.01']);
  });

  it('show dates and months in words, and amounts, also inside a sentence', () => {
    expect(showDay('2026-06-15')).toBe('15 Jun 2026');
    expect(showMonth('2026-10-31')).toBe('October 2026');
    expect(showText('Interest accrued to 2026-10-31')).toBe('Interest accrued to 31 Oct 2026');
    expect(showText('1222657.74 is left on 2031-01-28, of 999.50')).toBe(
      '1,222,657.74 is left on 28 Jan 2031, of 999.50',
    );
    expect(showDay('soon')).toBe('soon');
  });

  it('separate the thousands of a decimal that came as text', () => {
    expect(showDecimal('1234567.891')).toBe('1,234,567.891');
    expect(showDecimal('-1200')).toBe('−1,200');
  });

  // Common practice: how accounts are written in English, in German and French, in Swiss accounts; negatives in
  // parentheses as financial statements have them; days as ISO 8601 and national habits write them.
  it.each<[Partial<Habits>, string, string, string]>([
    [{}, '−1,234,567.89', '31 Mar 2027', '31 Mar'],
    [{ numbers: 'point-comma', dates: 'day-first-dotted' }, '−1.234.567,89', '31.03.2027', '31.03.'],
    [{ numbers: 'space-comma', dates: 'day-first' }, '−1\u00A0234\u00A0567,89', '31/03/2027', '31/03'],
    [{ numbers: 'apostrophe-point', dates: 'year-first' }, '−1’234’567.89', '2027-03-31', '03-31'],
    [{ belowZero: 'parentheses', dates: 'month-first' }, '(1,234,567.89)', '03/31/2027', '03/31'],
  ])('are written by the habits of the company: %o', (habits, amount, day, short) => {
    inHabits({ ...usualHabits, ...habits }, () => {
      const on = parseDay('2027-03-31') as CalendarDay;
      expect([showAmount(-123_456_789, 2), showDecimal('-1234567.89')]).toEqual([amount, amount]);
      expect([showDay('2027-03-31'), showDay(on), showShortDay(on)]).toEqual([day, day, short]);
    });
    expect(showAmount(-5, 2)).toBe('−0.05');
  });

  it('are written so in sentences too, but for the sections of standards and numbers of clauses', () => {
    inHabits({ ...usualHabits, numbers: 'point-comma', dates: 'year-first' }, () => {
      expect(showText('1222657.74 at 6.125% from 2027-03-31, 0.5 of it')).toBe(
        '1.222.657,74 at 6,125% from 2027-03-31, 0,5 of it',
      );
      expect(showText('IAS 1.69 and IFRS 9 B5.4.1; ASC 470-10-45')).toBe(
        'IAS 1.69 and IFRS 9 B5.4.1; ASC 470-10-45',
      );
      expect([showRate('6.125%'), showRate('-0.25%')]).toEqual(['6,125%', '−0,25%']);
    });
  });

  it('habits of one company end with what is made by them, also where that fails', () => {
    const fails = (): void =>
      inHabits({ ...usualHabits, numbers: 'point-comma' }, () => {
        throw new Error('no paper');
      });
    expect(fails).toThrow('no paper');
    expect(showAmount(123_456, 2)).toBe('1,234.56');
  });
});
