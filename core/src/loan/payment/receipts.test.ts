import { describe, expect, it } from 'vitest';
import { formatDay } from '../../calendar/calendar-day.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import { day, level, thousand } from '../../testing/plain-loan.ts';
import { receiptsOf, type Receipts } from './receipts.ts';

// Due on the first of each month from February to May 2025.
const { stretches } = buildLoanSchedule(thousand([level(4)]));
const paid = (due: string, on: string, amount = 1): LoanEvent => ({
  type: 'paid',
  due: day(due),
  on: day(on),
  amount,
});
const received = (...events: LoanEvent[]): Receipts => receiptsOf(events, stretches);
const told = (receipts: Receipts): unknown[] =>
  [...receipts.byDue.values()].map(({ due, date, amount, early, late, parts }) => ({
    due: formatDay(due),
    date: formatDay(date),
    amount,
    early: early.map((each) => formatDay(each.on)),
    late: late.map((each) => formatDay(each.on)),
    parts: parts.map((each) => each.amount),
  }));
const plain = { amount: 0, early: [], late: [] };

// The rule of the doc comment: a row falls on the last part paid by its due date, if that is after the row before it.
describe('what was paid for a due date', () => {
  it('falls on the day of its last part by then, with those of the same day', () => {
    const parts = received(
      paid('2025-03-01', '2025-02-20', 7),
      paid('2025-03-01', '2025-02-10', 5),
      paid('2025-03-01', '2025-03-05', 9),
      paid('2025-03-01', '2025-02-20', 2),
    );
    const due = {
      due: '2025-03-01',
      date: '2025-02-20',
      amount: 9,
      early: ['2025-02-10'],
      late: ['2025-03-05'],
    };
    expect(told(parts)).toEqual([{ ...due, parts: [5, 7, 2, 9] }]);
    expect(parts.unmatched).toEqual([]);
  });

  it('on the due date itself is in time, on the day of the row before it is early', () => {
    const [onTheDay] = told(received(paid('2025-03-01', '2025-03-01', 4)));
    expect(onTheDay).toEqual({ due: '2025-03-01', date: '2025-03-01', ...plain, amount: 4, parts: [4] });
    const [before] = told(received(paid('2025-03-01', '2025-02-01', 4)));
    const early = { ...plain, early: ['2025-02-01'], parts: [4] };
    expect(before).toEqual({ due: '2025-03-01', date: '2025-03-01', ...early });
    const [after] = told(received(paid('2025-03-01', '2025-02-02', 4)));
    expect(after).toEqual({ due: '2025-03-01', date: '2025-02-02', ...plain, amount: 4, parts: [4] });
    // The row before was itself made earlier: what follows that day belongs to the next.
    const [, next] = told(received(paid('2025-02-01', '2025-01-20', 4), paid('2025-03-01', '2025-01-25', 4)));
    expect(next).toEqual({ due: '2025-03-01', date: '2025-01-25', ...plain, amount: 4, parts: [4] });
  });

  it('before the first of all is its own, however early', () => {
    const [first] = told(received(paid('2025-02-01', '2025-01-02', 4)));
    expect(first).toEqual({ due: '2025-02-01', date: '2025-01-02', ...plain, amount: 4, parts: [4] });
  });

  it('was nothing where it was missed, which is neither early nor late', () => {
    const missed = received(paid('2025-03-01', '2025-02-10', 0), paid('2025-03-01', '2025-02-20', 0));
    expect(told(missed)).toEqual([{ due: '2025-03-01', date: '2025-02-20', ...plain, parts: [0, 0] }]);
    const after = received(paid('2025-03-01', '2025-03-20', 0));
    expect(told(after)).toEqual([{ due: '2025-03-01', date: '2025-03-01', ...plain, parts: [0] }]);
  });

  it('is kept apart where nothing falls due on the day that it names', () => {
    const other = paid('2025-03-02', '2025-03-02', 4);
    expect(received(other, paid('2025-03-01', '2025-03-01'))).toMatchObject({ unmatched: [other] });
    expect([...received(other).byDue]).toEqual([]);
    expect(received()).toEqual({ byDue: new Map(), unmatched: [] });
  });
});
