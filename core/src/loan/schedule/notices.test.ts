import { describe, expect, it } from 'vitest';
import { formatDay } from '../../calendar/calendar-day.ts';
import { extra, paid, withEvents } from '../../testing/loan-events.ts';
import { day, level, percent, thousand } from '../../testing/plain-loan.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import type { LoanTerms, Phase } from '../terms/loan-terms.ts';
import { buildLoanSchedule } from './build-loan-schedule.ts';

const waiting: readonly Phase[] = [{ type: 'interest-only', count: 4 }];
const told = (more: Partial<LoanTerms>, phases = waiting): unknown[] =>
  buildLoanSchedule(
    thousand(phases, { annualRate: percent('36'), dayCount: 'ACT/360', ...more }),
  ).notices.map(({ on, kind, stated, applied }) => [formatDay(on), kind, stated, applied]);
const custom = (...payments: [string, number][]): readonly Phase[] => [
  { type: 'custom', payments: payments.map(([on, amount]) => ({ on: day(on), amount })) },
];

const settled: LoanEvent = { type: 'settled', on: day('2025-04-11') };
const repaid = extra('2025-03-11', 100_000);

// 1,000.00 at 36 % by actual days over 360: a day costs 1.00. Interest is due on the first of February, March, April and
// May 2025, the balance with the last. What a schedule does that its author may not expect is told; nothing else is.
describe('a notice', () => {
  it('tells what is left at the end, or overdue', () => {
    expect(told({})).toEqual([]);
    expect(told({ atEnd: 'leave' })).toEqual([['2025-05-01', 'left-at-end', 100_000, 0]]);
    // Interest in arrears is no part of what is left for a renewal; where nothing is left nothing is told.
    expect(told({ atEnd: 'leave', ...withEvents(paid('2025-05-01', '2025-05-01', 0)) })).toEqual([
      ['2025-05-01', 'left-at-end', 100_000, 0],
    ]);
    expect(told({ atEnd: 'leave', ...withEvents(repaid) })).toEqual([]);
    expect(told({ atEnd: 'leave', ...withEvents(settled) })).toEqual([]);
    expect(told(withEvents({ ...settled, amount: 90_000 }))).toEqual([]);
    // A line without a maturity has no end at which anything could be left.
    const line = {
      kind: 'credit-line',
      amount: 0,
      creditLine: { limit: 200_000, unusedFee: percent('0') },
    } as const;
    const drawn = withEvents({ type: 'draw', on: day('2025-01-11'), amount: 100_000, then: 'keep' });
    expect(told({ ...line, atEnd: 'leave', ...drawn })).toEqual([]);
    expect(told(withEvents(paid('2025-05-01', '2025-05-01', 0)))).toEqual([
      ['2025-05-01', 'overdue-at-end', 103_000, 0],
    ]);
    // Ten days late 10.00 more are owed.
    expect(told(withEvents(paid('2025-05-01', '2025-05-11', 103_000)))).toEqual([
      ['2025-05-11', 'overdue-at-end', 1_000, 0],
    ]);
    expect(told(withEvents(paid('2025-05-01', '2025-05-11', 104_000)))).toEqual([]);
  });

  it('tells where a listed payment is not what is then owed', () => {
    // 1,000.00 + 31.00 − 100.00 = 931.00; with 28 days of it, 26.07, 957.07.
    const listed = (amount: number): readonly Phase[] =>
      custom(['2025-02-01', 10_000], ['2025-03-01', amount]);
    expect(told({}, listed(95_707))).toEqual([]);
    expect(told({}, listed(95_706))).toEqual([['2025-03-01', 'listed-payment-differs', 95_706, 95_707]]);
    expect(told({}, listed(95_708))).toEqual([['2025-03-01', 'listed-payment-differs', 95_708, 95_707]]);
    expect(told({}, custom(['2025-02-01', 110_000], ['2025-03-01', 1]))).toEqual([
      ['2025-02-01', 'listed-payment-differs', 110_000, 103_100],
    ]);
    // A settlement pays what it pays: the list does not differ by it.
    expect(told(withEvents({ ...settled, on: day('2025-02-01') }), listed(95_707))).toEqual([]);
  });

  it('tells what had no effect, or less, because nothing or less was owed', () => {
    expect(told(withEvents(repaid, extra('2025-03-21', 5_000)))).toEqual([
      ['2025-03-21', 'extra-cut', 5_000, 0],
    ]);
    const after = (more: LoanEvent): unknown => told(withEvents(repaid, more))[0];
    expect(after(extra('2025-05-11', 5_000))).toEqual(['2025-05-11', 'event-without-effect', 5_000, 0]);
    expect(after({ type: 'interest-added', on: day('2025-05-21') })).toEqual([
      '2025-05-21',
      'event-without-effect',
      0,
      0,
    ]);
    expect(after({ ...settled, on: day('2025-05-21') })).toEqual([
      '2025-05-21',
      'event-without-effect',
      0,
      0,
    ]);
    expect(after(paid('2025-05-01', '2025-05-01', 3_000))).toEqual(['2025-05-01', 'overpaid', 3_000, 0]);
    expect(told(withEvents(paid('2025-05-01', '2025-05-01', 0), extra('2025-05-11', 105_000)))).toEqual([
      ['2025-05-11', 'extra-cut', 105_000, 104_000],
    ]);
  });

  it('tells of a last payment of more than twice the agreed one, unless something explains it', () => {
    const free = { annualRate: percent('0') };
    const four = (payment: number, more: Partial<LoanTerms> = {}, over = 4): unknown[] =>
      told({ ...free, ...more }, [level(4, over, payment)]);
    // Without interest 1,000.00 less three payments is left for the last: of 200.00 just twice as much.
    expect(four(20_000)).toEqual([]);
    expect(four(19_999)).toEqual([['2025-05-01', 'last-payment-large', 19_999, 40_003]]);
    expect(told(free, [{ type: 'fixed', count: 4, payment: 19_999 }])).toHaveLength(1);
    const rises = { by: 'amount', amount: 1 } as const;
    expect(told(free, [{ type: 'fixed', count: 4, payment: 19_999, rises }])).toEqual([]);
    // Agreed so: a balloon, payments meant for a longer term, what is left for a renewal.
    expect(four(10_000, {}, 10)).toEqual([]);
    expect(told(free, [{ type: 'level', count: 4, amortizeOver: 4, balloon: 60_000 }])).toEqual([]);
    const both: Phase = { type: 'level', count: 4, amortizeOver: 4, payment: 10_000, balloon: 60_000 };
    expect(told(free, [both])).toEqual([]);
    expect(four(10_000, { atEnd: 'leave' })).toEqual([['2025-05-01', 'left-at-end', 60_000, 0]]);
    // Things that happened leave a last payment of any size; extra principal only lessens it.
    const happened: readonly LoanEvent[] = [
      { type: 'payment-change', on: day('2025-03-01'), payment: 9_000 },
      { type: 'draw', on: day('2025-03-11'), amount: 1, then: 'keep' },
      { type: 'interest-added', on: day('2025-03-11') },
      paid('2025-03-01', '2025-03-01', 9_000),
    ];
    for (const each of happened)
      expect(four(10_000, withEvents(each)).map((one) => (one as string[])[1])).not.toContain(
        'last-payment-large',
      );
    expect(four(10_000, withEvents(extra('2025-03-11', 1)))).toEqual([
      ['2025-05-01', 'last-payment-large', 10_000, 69_999],
    ]);
    expect(told(free, waiting)).toEqual([]);
  });

  it('tells of a gap before listed payments, from the day after the stretch would have gone on', () => {
    const first = (on: string): unknown[] =>
      told({}, [{ type: 'interest-only', count: 2 }, ...custom([on, 10_000], ['2025-06-01', 1])]).filter(
        (one) => (one as string[])[1] === 'gap',
      );
    expect(first('2025-03-15')).toEqual([]);
    expect(first('2025-04-01')).toEqual([]);
    expect(first('2025-04-02')).toEqual([['2025-04-02', 'gap', 0, 0]]);
    expect(first('2025-05-01')).toEqual([['2025-05-01', 'gap', 0, 0]]);
    // Before a first list nothing went on, and a due date that moves for a weekend leaves no gap.
    expect(told({}, custom(['2025-03-15', 110_000]))).not.toContainEqual(expect.arrayContaining(['gap']));
    const moves = { businessDays: { rule: 'following', calendar: 'weekends', accrual: 'moved' } } as const;
    expect(told(moves, [{ type: 'interest-only', count: 1 }, level(3)])).toEqual([]);
  });
});
