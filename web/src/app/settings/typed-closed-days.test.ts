import { inHabits, usualHabits } from '@coffer/contract';
import { describe, expect, it } from 'vitest';
import { readClosedDays, typedClosedDays } from './typed-closed-days';

describe('closed days that are typed', () => {
  it('are a date in any usual way and then what it is, in order, the last of a day counting', () => {
    const { days, fault } = readClosedDays(
      ['31.12.2026 New Year’s Eve', '', '24 dec 26  Christmas Eve', '2027-05-14', '24 Dec 2026 Eve'].join(
        '\n',
      ),
    );
    expect(fault).toBe('');
    expect(days).toEqual([
      { on: '2026-12-24', name: 'Eve' },
      { on: '2026-12-31', name: 'New Year’s Eve' },
      { on: '2027-05-14', name: 'closed' },
    ]);
    for (const dates of ['day-name', 'month-first', 'year-first'] as const)
      inHabits({ ...usualHabits, dates }, () =>
        expect(readClosedDays(typedClosedDays(days)).days).toEqual(days),
      );
  });

  it('say which line begins with no date', () => {
    expect(readClosedDays('24 dec 26 Eve\nsome day')).toMatchObject({
      fault: 'Line 2, “some day”, begins with no date.',
    });
  });
});
