import { describe, expect, it } from 'vitest';
import { formatDay } from '../../calendar/calendar-day.ts';
import { draw, extra, paid, settled } from '../../testing/loan-events.ts';
import { day, level, percent, thousand } from '../../testing/plain-loan.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import type { LoanTerms, Phase } from '../terms/loan-terms.ts';
import { buildLoanSchedule } from './build-loan-schedule.ts';
import { loanRows } from './loan-schedule.ts';

const rows = (
  events: readonly LoanEvent[],
  phases: readonly Phase[] = [level(12)],
  more: Partial<LoanTerms> = {},
): unknown[] =>
  loanRows(buildLoanSchedule(thousand(phases, { events, ...more }))).map((row) => [
    ...[row.n, formatDay(row.date), row.kind, row.interest, row.payment],
    ...[row.principal, row.extra, row.added, row.closing, row.unpaid, row.overpaid],
  ]);
const each = (
  from: string,
  to: string,
  amount: number,
  then: 'shorten' | 're-level' = 'shorten',
): LoanEvent => ({ type: 'extra-each-payment', from: day(from), to: day(to), amount, then });

/** A credit line of 2,000.00 without a fee. */
const line = {
  kind: 'credit-line',
  amount: 0,
  creditLine: { limit: 200_000, unusedFee: percent('0') },
} as const;

/** The first rows as number, day, interest, payment, principal, closing, unpaid. */
const paidAhead = (events: readonly LoanEvent[], phases?: readonly Phase[], to = 4): unknown[] =>
  rows(events, phases)
    .slice(0, to)
    .map((row) => [0, 1, 3, 4, 5, 8, 9].map((at) => (row as unknown[])[at]));

// 1,000.00 at 1 % a month from New Year 2025 in twelve payments of 88.85, due on the first. All by hand.
describe('a payment that was made before the one before it', () => {
  // Common practice: it pays interest to its own day, then principal, and nothing falls due on its due date any more.
  it('leaves no row where it is all that is asked for, at once or in parts', () => {
    expect(paidAhead([paid('2025-03-01', '2025-01-21', 8_885)])).toEqual([
      // 10.00 for 20 of 31 days, and the other eleven on 917.60.
      [null, '2025-01-21', 645, 8_885, 8_240, 91_760, 0],
      [1, '2025-02-01', 326, 8_885, 8_559, 83_201, 0],
      // Interest of two months on 832.01.
      [3, '2025-04-01', 1_664, 8_885, 7_221, 75_980, 0],
      [4, '2025-05-01', 760, 8_885, 8_125, 67_855, 0],
    ]);
    // More than it asks for is all of it too.
    expect(paidAhead([paid('2025-03-01', '2025-01-21', 9_500)])).toMatchObject({
      ...{ 0: [null, '2025-01-21', 645, 8_885, 8_240, 91_145, 0], 2: { 0: 3, 1: '2025-04-01' } },
    });
    const parts = [paid('2025-03-01', '2025-01-21', 5_000), paid('2025-03-01', '2025-01-26', 3_885)];
    expect(paidAhead(parts)).toMatchObject({
      2: { 0: 1 },
      3: [3, '2025-04-01', 1_664, 8_885, 7_221, 75_986, 0],
    });
  });

  it('is in arrears by what it lacks, and has a row where anything is paid for it later', () => {
    expect(paidAhead([paid('2025-03-01', '2025-01-21', 8_884)])[2]).toEqual([
      2,
      '2025-03-01',
      832,
      0,
      0,
      83_202,
      832,
    ]);
    const more = (on: string): unknown[] =>
      paidAhead([paid('2025-03-01', '2025-01-21', 8_885), paid('2025-03-01', on, 100)]).slice(2);
    expect(more('2025-03-01')[0]).toEqual([2, '2025-03-01', 832, 100, 0, 83_201, 732]);
    expect(more('2025-03-11')).toEqual([
      [2, '2025-03-01', 832, 0, 0, 83_201, 832],
      [null, '2025-03-11', 0, 100, 0, 83_201, 732],
    ]);
  });

  it('is so for every payment of one amount, and for none whose principal or interest alone is agreed', () => {
    const numbers = (events: readonly LoanEvent[], phases: readonly Phase[]): unknown[] =>
      paidAhead(events, phases).map((row) => (row as unknown[])[0]);
    const agreed = [level(12, 12, 9_000)];
    expect(numbers([paid('2025-03-01', '2025-01-21', 9_000)], agreed)).toEqual([null, 1, 3, 4]);
    const changed: LoanEvent = { type: 'payment-change', on: day('2025-02-10'), payment: 9_000 };
    expect(numbers([changed, paid('2025-04-01', '2025-02-21', 9_000)], [level(12)])).toEqual([1, null, 2, 4]);
    const interest: readonly Phase[] = [{ type: 'interest-only', count: 4 }];
    expect(numbers([paid('2025-03-01', '2025-01-21', 1_000)], interest)).toEqual([null, 1, 2, 3]);
    const principal: readonly Phase[] = [{ type: 'equal-principal', count: 12 }];
    expect(numbers([paid('2025-03-01', '2025-01-21', 20_000)], principal)).toEqual([null, 1, 2, 3]);
  });

  it('has its row where it is the last, that pays all that is left', () => {
    // Where the third is missed all that is left falls due with the fourth, though that was paid in February.
    const missed = [paid('2025-05-01', '2025-02-11', 25_628), paid('2025-04-01', '2025-04-01', 0)];
    expect(paidAhead(missed, [level(4)], 9).slice(3)).toEqual([
      [3, '2025-04-01', 247, 0, 0, 24_707, 247],
      [4, '2025-05-01', 247, 0, 0, 24_707, 494],
    ]);
    // Of a stretch that is not the last it has none.
    const two: readonly Phase[] = [{ type: 'level', count: 2, amortizeOver: 12 }, level(10)];
    expect(paidAhead([paid('2025-03-01', '2025-01-21', 8_885)], two)).toMatchObject({
      1: { 0: 1 },
      2: { 0: 3 },
    });
  });
});

describe('on the day of a payment', () => {
  it('extra principal is part of its row, a draw comes after it, and a settlement is what is left', () => {
    expect(
      rows([extra('2025-02-01', 50_000), extra('2025-02-01', 5_000), draw('2025-02-01', 7_000)]).slice(0, 2),
    ).toEqual([
      [1, '2025-02-01', 'payment', 1_000, 8_885, 7_885, 55_000, 0, 37_115, 0, 0],
      [null, '2025-02-01', 'draw', 0, 0, 0, 0, 7_000, 44_115, 0, 0],
    ]);
    // Never more than is owed, together.
    const most = rows([extra('2025-02-01', 92_000), extra('2025-02-01', 5_000)]);
    expect(most).toEqual([[1, '2025-02-01', 'payment', 1_000, 8_885, 7_885, 92_115, 0, 0, 0, 0]]);
    expect(rows([settled('2025-02-01')])).toEqual([
      [1, '2025-02-01', 'payment', 1_000, 101_000, 100_000, 0, 0, 0, 0, 0],
    ]);
    // What was recorded for the day is a payment first; the settlement has a row of its own.
    expect(rows([paid('2025-02-01', '2025-02-01', 5_000), settled('2025-02-01')])).toEqual([
      [1, '2025-02-01', 'payment', 1_000, 5_000, 4_000, 0, 0, 96_000, 0, 0],
      [null, '2025-02-01', 'settlement', 0, 96_000, 96_000, 0, 0, 0, 0, 0],
    ]);
  });

  // What is drawn, added or repaid comes before a settlement, as between due dates: no cash of the day is lost.
  it('a settlement pays what is owed once all else of the day has happened', () => {
    const all = (...events: LoanEvent[]): unknown[] =>
      rows([...events, settled('2025-03-01')], [level(4)]).slice(1);
    const last = (interest: number, owed: number): unknown[] => [
      ...[2, '2025-03-01', 'payment', interest, owed, owed - interest, 0, 0, 0, 0, 0],
    ];
    // 753.72 is left after the first; 7.54 is its interest.
    expect(all()).toEqual([last(754, 76_126)]);
    expect(all(draw('2025-03-01', 5_000))).toEqual([
      [null, '2025-03-01', 'draw', 0, 0, 0, 0, 5_000, 80_372, 0, 0],
      last(754, 81_126),
    ]);
    expect(all(extra('2025-03-01', 5_000))).toEqual([
      [null, '2025-03-01', 'extra', 0, 0, 0, 5_000, 0, 70_372, 0, 0],
      last(754, 71_126),
    ]);
    expect(all({ type: 'interest-added', on: day('2025-03-01') })).toEqual([
      [null, '2025-03-01', 'interest-added', 754, 0, 0, 0, 754, 76_126, 0, 0],
      last(0, 76_126),
    ]);
  });

  it('an overpayment comes back after what it paid of the bill, and after the settlement', () => {
    const back: LoanEvent = { type: 'overpayment-returned', on: day('2025-03-01'), amount: 18 };
    const events = [
      draw('2025-01-11', 10_000),
      paid('2025-02-01', '2025-02-01', 10_150),
      draw('2025-02-11', 10_000),
    ];
    expect(
      rows([...events, settled('2025-03-01'), back], [{ type: 'interest-only', count: 4 }], line).slice(3),
    ).toEqual([
      [2, '2025-03-01', 'payment', 64, 64, 0, 0, 0, 10_000, 0, 18],
      [null, '2025-03-01', 'settlement', 0, 10_000, 10_000, 0, 0, 0, 0, 18],
      [null, '2025-03-01', 'overpayment-returned', 0, 0, 0, 0, 0, 0, 0, 0],
    ]);
  });

  it('extra principal levels the payment anew only where it is to', () => {
    const payments = (event: LoanEvent): unknown[] =>
      rows([event])
        .slice(0, 3)
        .map((row) => (row as unknown[])[4]);
    // 821.15 over eleven payments at 1 %: 79.20.
    for (const make of [
      (then: 'shorten' | 're-level') => extra('2025-02-01', 10_000, then),
      (then: 'shorten' | 're-level') => each('2025-02-01', '2025-02-01', 10_000, then),
    ]) {
      expect(payments(make('re-level'))).toEqual([8_885, 7_920, 7_920]);
      expect(payments(make('shorten'))).toEqual([8_885, 8_885, 8_885]);
    }
  });

  it('regular extras of several kinds take no more than is owed together', () => {
    const two = [each('2025-02-01', '2025-03-01', 60_000), each('2025-02-01', '2025-02-01', 50_000)];
    expect(rows(two)).toEqual([[1, '2025-02-01', 'payment', 1_000, 8_885, 7_885, 92_115, 0, 0, 0, 0]]);
    const [first, second] = rows([
      each('2025-02-01', '2025-03-01', 60_000),
      each('2025-02-01', '2025-02-01', 2_115),
    ]);
    expect(first).toEqual([1, '2025-02-01', 'payment', 1_000, 8_885, 7_885, 62_115, 0, 30_000, 0, 0]);
    // With 300.00 left the next is 88.85 of 303.00, and the rest of the extra is cut.
    expect(second).toEqual([2, '2025-03-01', 'payment', 300, 8_885, 8_585, 21_415, 0, 0, 0, 0]);
  });

  it('regular extras come with what is paid as asked, not with what is recorded', () => {
    const events = [each('2025-02-01', '2025-03-01', 1_000), paid('2025-02-01', '2025-02-01', 8_885)];
    expect(rows(events).slice(0, 2)).toEqual([
      [1, '2025-02-01', 'payment', 1_000, 8_885, 7_885, 0, 0, 92_115, 0, 0],
      [2, '2025-03-01', 'payment', 921, 8_885, 7_964, 1_000, 0, 83_151, 0, 0],
    ]);
  });

  it('a settlement pays interest that was kept apart as well', () => {
    const apart: Phase = { type: 'no-payment', count: 4, interest: 'kept-apart', then: 'pay' };
    expect(rows([settled('2025-03-01')], [apart])[1]).toEqual([
      ...[2, '2025-03-01', 'payment', 1_000, 102_000, 100_000, 0, 0, 0, 0, 0],
    ]);
  });

  it('what was overpaid pays first what is asked beyond what came in', () => {
    const bills = rows(
      [
        draw('2025-01-11', 10_000),
        paid('2025-02-01', '2025-02-01', 10_150),
        draw('2025-02-11', 10_000),
        paid('2025-03-01', '2025-03-01', 20),
      ],
      [{ type: 'interest-only', count: 4 }],
      line,
    ).filter((row) => (row as unknown[])[0] !== null);
    expect(bills).toEqual([
      // 21 of 31 days of 1.00: 0.68. Of 101.50 then 0.82 is too much.
      [1, '2025-02-01', 'payment', 68, 68, 0, 10_000, 0, 0, 0, 82],
      // 18 of 28 days: 0.64, of which 0.20 came in.
      [2, '2025-03-01', 'payment', 64, 64, 0, 0, 0, 10_000, 0, 38],
      [3, '2025-04-01', 'payment', 100, 100, 0, 0, 0, 10_000, 0, 0],
      [4, '2025-05-01', 'payment', 100, 10_100, 10_000, 0, 0, 0, 0, 0],
    ]);
  });

  it('nothing is left of what dividing an unrounded payment could not write out', () => {
    const rounding = { interest: 'none', payment: 'none', ties: 'away-from-zero' } as const;
    const schedule = buildLoanSchedule(
      thousand([level(12), { type: 'interest-only', count: 2 }], { rounding, atEnd: 'leave' }),
    );
    expect([schedule.length, schedule.exact?.closing.at(-1)]).toEqual([12, 0n]);
  });
});
