import { describe, expect, it } from 'vitest';
import { formatDay } from '../../calendar/calendar-day.ts';
import { extra, paid } from '../../testing/loan-events.ts';
import { day, level, percent, thousand } from '../../testing/plain-loan.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import type { LoanTerms, Phase } from '../terms/loan-terms.ts';
import { buildLoanSchedule } from './build-loan-schedule.ts';
import { loanRows } from './loan-schedule.ts';

/** Rows as number, day, kind, interest, payment, principal, extra, closing, unpaid, deferred, overpaid; then arrears. */
const rows = (
  events: readonly LoanEvent[],
  phases: readonly Phase[] = [level(4)],
  more: Partial<LoanTerms> = {},
): unknown[] => {
  const schedule = buildLoanSchedule(thousand(phases, { events, ...more }));
  return loanRows(schedule).map((row) => [
    ...[row.n, formatDay(row.date), row.kind, row.interest, row.payment, row.principal],
    ...[
      row.extra,
      row.closing,
      row.unpaid,
      row.deferred,
      row.overpaid,
      schedule.principalInArrears[row.index],
    ],
  ]);
};
const renewal = (on: string): LoanEvent => ({
  type: 'renewal',
  on: day(on),
  annualRate: percent('12'),
  count: 2,
  amortizeOver: 2,
});
const free = { annualRate: percent('0') };
const apart: Phase = { type: 'no-payment', count: 4, interest: 'kept-apart', then: 'pay' };

// 1,000.00 from New Year 2025, due on the first; without interest four payments of 250.00, at 1 % a month of 256.28.
describe('what is paid for dues that never come up', () => {
  it('is overpaid on its own day, from the first due that the loan was cleared before', () => {
    expect(
      rows([extra('2025-01-11', 100_000), paid('2025-02-01', '2025-02-01', 500)], undefined, free),
    ).toEqual([
      [null, '2025-01-11', 'extra', 0, 0, 0, 100_000, 0, 0, 0, 0, 0],
      [1, '2025-02-01', 'payment', 0, 0, 0, 0, 0, 0, 0, 500, 0],
    ]);
    const later = [paid('2025-04-01', '2025-04-01', 700), paid('2025-05-01', '2025-05-05', 300)];
    expect(rows([extra('2025-03-11', 100_000), ...later], undefined, free).slice(2)).toEqual([
      [null, '2025-03-11', 'extra', 0, 0, 0, 50_000, 0, 0, 0, 0, 0],
      [3, '2025-04-01', 'payment', 0, 0, 0, 0, 0, 0, 0, 700, 0],
      [null, '2025-05-05', 'overdue-payment', 0, 0, 0, 0, 0, 0, 0, 1_000, 0],
    ]);
  });

  it('comes in too where the first part of the same payment cleared the loan', () => {
    const parts = [paid('2025-04-01', '2025-03-11', 90_000), paid('2025-04-01', '2025-04-01', 500)];
    expect(rows(parts, undefined, free).slice(2)).toEqual([
      [null, '2025-03-11', 'early-payment', 0, 25_000, 25_000, 25_000, 0, 0, 0, 40_000, 0],
      [null, '2025-04-01', 'overdue-payment', 0, 0, 0, 0, 0, 0, 0, 40_500, 0],
    ]);
  });

  it('pays what is overdue with interest to its day, whatever it is called', () => {
    const overdue = [
      paid('2025-05-01', '2025-05-01', 0),
      extra('2025-05-11', 5_000),
      extra('2025-05-21', 50_000),
    ];
    expect(rows(overdue).slice(3)).toEqual([
      [4, '2025-05-01', 'payment', 254, 0, 0, 0, 25_375, 254, 0, 0, 25_375],
      // Ten of 31 days of 2.54: 0.82; with 2.54 in arrears 46.64 are left for the balance.
      [null, '2025-05-11', 'overdue-payment', 82, 5_000, 4_664, 0, 20_711, 0, 0, 0, 20_711],
      [null, '2025-05-21', 'overdue-payment', 67, 20_778, 20_711, 0, 0, 0, 0, 0, 0],
    ]);
  });
});

describe('a renewal', () => {
  // Common practice: what was put off is owed once what put it off has ended.
  it('ends what was agreed about interest kept apart', () => {
    expect(rows([renewal('2025-03-01')], [apart]).slice(1)).toEqual([
      [2, '2025-03-01', 'payment', 1_000, 0, 0, 0, 100_000, 2_000, 2_000, 0, 0],
      // 507.51 pays the 20.00 first, and lacks as much of its principal.
      [3, '2025-04-01', 'payment', 1_000, 50_751, 47_751, 0, 52_249, 0, 0, 0, 2_000],
      [4, '2025-05-01', 'payment', 522, 52_771, 52_249, 0, 0, 0, 0, 0, 0],
    ]);
    expect(rows([renewal('2025-03-11')], [apart])[2]).toEqual([
      ...[3, '2025-04-11', 'payment', 1_323, 50_913, 47_590, 0, 52_410, 0, 0, 0, 2_000],
    ]);
  });

  it('after the term has the balance fall due anew, and with its own end all of it once more', () => {
    const late = [paid('2025-07-11', '2025-07-11', 0), paid('2025-07-11', '2025-07-21', 40_000)];
    const left = { atEnd: 'leave' } as const;
    expect(rows([renewal('2025-05-11'), ...late], [level(4, 12)], left).slice(4)).toEqual([
      [5, '2025-06-11', 'payment', 899, 34_613, 33_714, 0, 34_270, 0, 0, 0, 0],
      [6, '2025-07-11', 'payment', 343, 0, 0, 0, 34_270, 343, 0, 0, 34_270],
      [null, '2025-07-21', 'overdue-payment', 111, 34_724, 34_270, 0, 0, 0, 0, 5_276, 0],
    ]);
    // A payment missed before it is no longer in arrears by its principal: all is agreed anew.
    const missed = rows([paid('2025-04-01', '2025-04-01', 0), renewal('2025-05-11')], [level(4, 12)], left);
    expect(missed.slice(3, 5)).toEqual([
      [4, '2025-05-01', 'payment', 842, 8_885, 7_201, 0, 76_950, 0, 0, 0, 8_885],
      [5, '2025-06-11', 'payment', 1_018, 39_178, 38_160, 0, 38_790, 0, 0, 0, 0],
    ]);
  });
});
