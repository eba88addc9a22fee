import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addMonths, parseDay, type CalendarDay } from '../calendar/calendar-day.ts';
import { buildSchedule } from '../instrument/instrument.ts';
import { arbitraryLoanWithEvents } from '../testing/arbitrary-loan.ts';
import { accrualEntry } from './entries.ts';
import { leftOutOf, smallAccrual } from './materiality.ts';

const accruals = fc.uniqueArray(
  fc.record({ id: fc.string({ minLength: 1 }), amount: fc.integer({ min: 1, max: 500 }) }),
  { selector: ({ id }) => id, maxLength: 12 },
);

describe('what is left out of a month', () => {
  it('is never more than the sum, and nothing that is booked could be left out beside it in its place', () => {
    fc.assert(
      fc.property(accruals, fc.integer({ min: 0, max: 3000 }), (small, sum) => {
        const left = leftOutOf(small, { each: 501, sum });
        const total = left.reduce((all, { amount }) => all + amount, 0);
        expect(total).toBeLessThanOrEqual(sum);
        const booked = small.filter((one) => !left.includes(one));
        for (const { amount } of booked) {
          expect(total + amount).toBeGreaterThan(sum);
          for (const out of left) expect(out.amount).toBeLessThanOrEqual(amount);
        }
        // Whoever asks in another order is told the same.
        expect(leftOutOf([...small].reverse(), { each: 501, sum })).toEqual(left);
      }),
    );
  });

  it('may reach the sum', () => {
    const small = [
      { id: 'b', amount: 25 },
      { id: 'a', amount: 35 },
      { id: 'c', amount: 25 },
    ];
    const ids = (sum: number, of = small): string[] => leftOutOf(of, { each: 50, sum }).map(({ id }) => id);
    // Of two alike the first by name, in whatever order they are told.
    expect([ids(25), ids(25, small.toReversed())]).toEqual([['b'], ['b']]);
    expect([ids(24), ids(25), ids(50), ids(84), ids(85)]).toEqual([
      [],
      ['b'],
      ['b', 'c'],
      ['b', 'c'],
      ['b', 'c', 'a'],
    ]);
  });

  it('are accruals below the threshold, by what their entries come to; at the threshold one is booked', () => {
    const end = parseDay('2025-03-31') as CalendarDay;
    fc.assert(
      fc.property(arbitraryLoanWithEvents, fc.integer({ min: 0, max: 36 }), (terms, months) => {
        const schedule = buildSchedule(terms);
        const day = addMonths(end, months, true);
        const entry = accrualEntry(schedule, day);
        const amount = entry?.lines.reduce((sum, { credit }) => sum + credit, 0) ?? 0;
        expect(smallAccrual(schedule, day, { each: 0, sum: 9 })).toBeUndefined();
        expect(smallAccrual(schedule, day, { each: amount, sum: 9 })).toBeUndefined();
        expect(smallAccrual(schedule, day, { each: amount + 1, sum: 0 })).toEqual(
          entry && { accrual: entry, amount },
        );
      }),
      { numRuns: 60 },
    );
  });
});
