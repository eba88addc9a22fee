import { describe, expect, it } from 'vitest';
import { formatDay } from '../../calendar/calendar-day.ts';
import { paid } from '../../testing/loan-events.ts';
import { day, level, percent, thousand } from '../../testing/plain-loan.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import type { LoanTerms, Phase } from '../terms/loan-terms.ts';
import { buildLoanSchedule } from './build-loan-schedule.ts';
import { loanRows } from './loan-schedule.ts';

/** Rows as day, interest, payment, principal, extra, closing, unpaid, deferred, fee. */
const rows = (
  events: readonly LoanEvent[],
  phases: readonly Phase[] = [level(12)],
  more: Partial<LoanTerms> = {},
): unknown[] =>
  loanRows(buildLoanSchedule(thousand(phases, { events, ...more }))).map((row) => [
    ...[formatDay(row.date), row.interest, row.payment, row.principal],
    ...[row.extra, row.closing, row.unpaid, row.deferred, row.fee],
  ]);
const apart: Phase = { type: 'no-payment', count: 2, interest: 'kept-apart', then: 'pay' };
const listed: Phase = {
  type: 'custom',
  payments: [
    { on: day('2025-02-01'), amount: 20_000 },
    { on: day('2025-03-01'), amount: 90_000 },
  ],
};

// 1,000.00 at 1 % a month from New Year 2025, due on the first: of January 10, 20 and 25 of 31 days have passed on the
// days on which the first payment is made in parts. Interest to each day first, then principal that is asked for, then
// beyond it (common practice).
describe('a payment that is made in parts before it is due', () => {
  const parts = [
    paid('2025-02-01', '2025-01-11', 3_000),
    paid('2025-02-01', '2025-01-21', 7_000),
    paid('2025-02-01', '2025-01-26', 100),
  ];
  it.each<[string, Phase, [number, number], [number, number]]>([
    // 88.85 less 3.23, 26.77 and 3.14 is 55.71.
    ['a level one', level(12), [2_677, 0], [5_571, 1_115]],
    // 83.33 of principal less 26.77.
    ['one of equal principal', { type: 'equal-principal', count: 12 }, [2_677, 0], [5_656, 1_030]],
    ['one of interest', { type: 'interest-only', count: 4 }, [0, 2_677], [0, 6_686]],
    ['none', { ...apart, interest: 'added-each-period' }, [0, 2_677], [0, 6_686]],
    ['a listed one', listed, [0, 2_677], [0, 6_686]],
  ])('goes beyond what is asked for only with what is beyond it: %s', (_, phase, one, other) => {
    const found = rows(parts, phase.type === 'no-payment' ? [phase, level(4)] : [phase]);
    expect(found.slice(0, 2)).toEqual([
      ['2025-01-11', 323, 323 + one[0], ...one, 97_323, 0, 0, 0],
      ['2025-01-21', 314, 314 + other[0], ...other, 90_637, 0, 0, 0],
    ]);
    // 1.46 to its last part: 0.46 stays unpaid, or joins the balance where that is agreed.
    const joins = phase.type === 'no-payment';
    expect(found[2]).toEqual(['2025-01-26', 146, 100, 0, 0, joins ? 90_683 : 90_637, joins ? 0 : 46, 0, 0]);
  });

  it('goes beyond at once where the payments are listed, whatever was listed before it', () => {
    const second = [paid('2025-03-01', '2025-02-15', 5_000), paid('2025-03-01', '2025-03-01', 1_000)];
    expect(rows(second, [listed])[1]).toEqual(['2025-02-15', 405, 405, 0, 4_595, 76_405, 0, 0, 0]);
  });

  it('pays what is in arrears first, with the interest of its days', () => {
    const arrears = (first: number): unknown[] =>
      rows([
        paid('2025-02-01', '2025-02-01', 0),
        paid('2025-03-01', '2025-02-15', first),
        paid('2025-03-01', '2025-02-20', 1_000),
      ]).slice(1, 4);
    expect(arrears(5_000)).toEqual([
      ['2025-02-15', 500, 5_000, 3_500, 0, 96_500, 0, 0, 0],
      ['2025-02-20', 172, 1_000, 828, 0, 95_672, 0, 0, 0],
      // 9 of 28 days and March.
      ['2025-04-01', 1_264, 8_885, 7_621, 0, 88_051, 0, 0, 0],
    ]);
    expect(arrears(1_200).slice(0, 2)).toEqual([
      ['2025-02-15', 500, 1_200, 0, 0, 100_000, 300, 0, 0],
      ['2025-02-20', 179, 1_000, 521, 0, 99_479, 0, 0, 0],
    ]);
  });

  it('pays interest that is kept apart after that of its days, and only then what is beyond', () => {
    const kept = (first: number): unknown[] =>
      rows(
        [paid('2025-03-01', '2025-02-15', first), paid('2025-03-01', '2025-02-20', 100)],
        [apart, level(4)],
      );
    expect(kept(700).slice(0, 3)).toEqual([
      ['2025-02-01', 1_000, 0, 0, 0, 100_000, 1_000, 1_000, 0],
      ['2025-02-15', 500, 700, 0, 0, 100_000, 800, 800, 0],
      ['2025-02-20', 179, 100, 0, 0, 100_000, 879, 0, 0],
    ]);
    expect(kept(1_700)[1]).toEqual(['2025-02-15', 500, 1_500, 0, 200, 99_800, 0, 0, 0]);
    // Late, all of it at once: 5.00 for the days with it.
    expect(rows([paid('2025-02-01', '2025-02-15', 110_000)], [apart, level(4)])[1]).toEqual([
      ...['2025-02-15', 500, 101_500, 100_000, 0, 0, 0, 0, 0],
    ]);
    // Late, it pays nothing else of its own day.
    expect(rows([paid('2025-02-01', '2025-02-15', 700)], [apart, level(4)])[1]).toEqual([
      ...['2025-02-15', 0, 700, 0, 0, 100_000, 300, 300, 0],
    ]);
  });
});

// A line of 2,000.00 of which 1,000.00 is drawn on 11 January, with 0.1 % a month on the rest.
describe('the fee of a credit line', () => {
  const line = {
    kind: 'credit-line',
    amount: 0,
    creditLine: { limit: 200_000, unusedFee: percent('1.2') },
  } as const;
  const draw: LoanEvent = { type: 'draw', on: day('2025-01-11'), amount: 100_000, then: 'keep' };
  const bills = (...events: LoanEvent[]): unknown[] =>
    rows([draw, ...events], [{ type: 'interest-only', count: 4 }], line).slice(1);

  it('is charged and paid with the interest: on time, early, with a settlement and overdue', () => {
    // Ten days on 2,000.00 and 21 on 1,000.00: 0.645 and 0.677; interest for 21 days 6.77.
    expect(bills()[0]).toEqual(['2025-02-01', 677, 809, 0, 0, 100_000, 0, 0, 132]);
    const early = bills(paid('2025-03-01', '2025-02-15', 300), paid('2025-03-01', '2025-02-20', 400));
    expect(early.slice(1, 3)).toEqual([
      ['2025-02-15', 500, 300, 0, 0, 100_000, 250, 0, 50],
      ['2025-02-20', 179, 400, 0, 0, 100_000, 47, 0, 18],
    ]);
    expect(bills({ type: 'settled', on: day('2025-02-15') })[1]).toEqual([
      ...['2025-02-15', 500, 100_550, 100_000, 0, 0, 0, 0, 50],
    ]);
    expect(bills(paid('2025-05-01', '2025-05-16', 101_000)).slice(3)).toEqual([
      ['2025-05-01', 1_000, 0, 0, 0, 100_000, 1_100, 0, 100],
      // 15 of 31 days more: 16.32 is owed besides, of which all is paid and 993.68 of the balance.
      ['2025-05-16', 484, 101_000, 99_368, 0, 632, 0, 0, 48],
    ]);
  });

  it('and interest that was kept apart are overdue with the term', () => {
    expect(rows([paid('2025-03-01', '2025-03-11', 1_500)], [apart]).slice(1)).toEqual([
      ['2025-03-01', 1_000, 0, 0, 0, 100_000, 2_000, 0, 0],
      ['2025-03-11', 323, 1_500, 0, 0, 100_000, 823, 0, 0],
    ]);
  });

  it('is no reason to draw above the limit, and what can be drawn is said', () => {
    const more: LoanEvent = { type: 'draw', on: day('2025-02-11'), amount: 100_001, then: 'keep' };
    expect(() => bills(more)).toThrow(
      'Drawing 1000.01 on 2025-02-11 takes the balance to 2000.01, above the limit of 2000.00; at most 1000.00 can be drawn.',
    );
  });
});
