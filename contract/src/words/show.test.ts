import fc from 'fast-check';
import { parseAmount } from '@coffer/core';
import { describe, expect, it } from 'vitest';
import { showAmount, showText, showDay, showDecimal, showMonth, showMovement } from './show.ts';

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
});
