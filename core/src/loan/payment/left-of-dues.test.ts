import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatDay } from '../../calendar/calendar-day.ts';
import { day, level, thousand } from '../../testing/plain-loan.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import { dueInArrears } from './left-of-dues.ts';

// 1,000.00 at 12 % over 36 even months pays 33.21 on the first of each, from February (annuity tables).
const paid = (due: string, amount: number, on = due): LoanEvent => ({
  type: 'paid',
  due: day(due),
  on: day(on),
  amount,
});
const of = (events: readonly LoanEvent[], on: string): unknown =>
  dueInArrears(buildLoanSchedule(thousand([level(36)], { events })), day(on)).map(({ due, left }) => [
    formatDay(due),
    left,
  ]);

describe('due dates in arrears', () => {
  it('are those that were paid short, the oldest first, with what they lack', () => {
    const events = [paid('2025-02-01', 0), paid('2025-03-01', 2000)];
    const both = [
      ['2025-02-01', 3321],
      ['2025-03-01', 1321],
    ];
    expect(of(events, '2025-04-15')).toEqual(both);
    expect(of(events, '2025-02-28')).toEqual(both.slice(0, 1));
    expect(of(events, '2025-01-31')).toEqual([]);
    expect(of([], '2025-04-15')).toEqual([]);
  });

  it('are made up for by the oldest where more comes in than a payment asks for', () => {
    const events = [paid('2025-02-01', 0), paid('2025-03-01', 3321 + 1000)];
    expect(of(events, '2025-03-31')).toEqual([['2025-02-01', 2321]]);
    const made = [paid('2025-02-01', 0), paid('2025-03-01', 0), paid('2025-04-01', 2 * 3321)];
    expect(of(made, '2025-04-30')).toEqual([['2025-03-01', 3321]]);
    // What comes in for one of them is that one's.
    const late = [...made, paid('2025-03-01', 3321, '2025-04-20')];
    expect(of(late, '2025-04-30')).toEqual([]);
  });

  it('lack together what is owed and was not paid, and nothing once that is paid', () => {
    const parts = fc.array(
      fc.record({ month: fc.integer({ min: 2, max: 6 }), amount: fc.integer({ min: 0, max: 5000 }) }),
      { minLength: 1, maxLength: 6 },
    );
    fc.assert(
      fc.property(parts, (made) => {
        const events = made.map(({ month, amount }) => paid(`2025-0${month}-01`, amount));
        const end = day('2025-06-30');
        const schedule = buildLoanSchedule(thousand([level(36)], { events }));
        const short = dueInArrears(schedule, end);
        const lacking = short.reduce((sum, { left }) => sum + left, 0);
        expect(short.every(({ left }) => left > 0)).toBe(true);
        // Each asks for 33.21: what a month was paid less, unless another was paid more.
        const lacks = [2, 3, 4, 5, 6].flatMap((of) => {
          const parts = made.filter(({ month }) => month === of);
          return parts.length === 0 ? [] : 3321 - parts.reduce((sum, { amount }) => sum + amount, 0);
        });
        if (lacks.every((lack) => lack >= 0)) expect(lacking).toBe(lacks.reduce((sum, lack) => sum + lack));
        const settled = short.map(({ due, left }) => paid(formatDay(due), left, '2025-06-30'));
        const then = buildLoanSchedule(thousand([level(36)], { events: [...events, ...settled] }));
        expect(dueInArrears(then, end)).toEqual([]);
      }),
    );
  });
});
