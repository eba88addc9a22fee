import { describe, expect, it } from 'vitest';
import { toldCheck } from './close-checks.ts';

describe('a check of the close', () => {
  const check = {
    of: 'expense',
    instruments: 51_00,
    opening: 0,
    fromClosed: 0,
    leftOut: 0,
    journal: 51_00,
    difference: 0,
  } as const;

  it('is told by the figure of the instruments where the journal holds the same', () => {
    expect(toldCheck(check, 2)).toEqual({ name: 'Expense', holds: true, text: '51.00' });
  });

  it('names what closed months bring, and by how much the journal is off', () => {
    const corrected = { ...check, fromClosed: 7_00, journal: 58_00 };
    expect(toldCheck(corrected, 2)).toMatchObject({ holds: true, text: '51.00, 7.00 from closed months' });
    // In the first month of the books no month is closed: what is brought in is an opening balance.
    const first = { ...check, opening: 7_00, journal: 58_00 };
    expect(toldCheck(first, 2)).toMatchObject({ holds: true, text: '51.00, 7.00 from opening balances' });
    const left = { ...check, leftOut: 35, journal: 50_65 };
    expect(toldCheck(left, 2)).toMatchObject({ holds: true, text: '51.00, −0.35 left out' });
    const off = { ...corrected, journal: 57_99, difference: -1 };
    expect(toldCheck(off, 2)).toMatchObject({
      holds: false,
      text: '51.00, 7.00 from closed months; the journal is off by −0.01',
    });
  });
});
