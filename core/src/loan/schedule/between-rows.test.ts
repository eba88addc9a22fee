import { describe, expect, it } from 'vitest';
import { formatDay } from '../../calendar/calendar-day.ts';
import { draw, extra, paid } from '../../testing/loan-events.ts';
import { day, level, percent, thousand } from '../../testing/plain-loan.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import type { LoanTerms, Phase } from '../terms/loan-terms.ts';
import { buildLoanSchedule } from './build-loan-schedule.ts';
import { loanFlows } from './loan-flows.ts';
import { loanRows, type LoanSchedule } from './loan-schedule.ts';
import { paymentsMade, totalDrawn, totalOf } from './totals.ts';

// 1,000.00 at 36 % by actual days over 360: a day costs 1.00. Interest is due on the first of February, March, April and
// May 2025, the balance with the last.
const waiting: Phase = { type: 'interest-only', count: 4 };
const loan = (
  events: readonly LoanEvent[],
  more: Partial<LoanTerms> = {},
  phases: readonly Phase[] = [waiting],
): LoanSchedule =>
  buildLoanSchedule(thousand(phases, { annualRate: percent('36'), dayCount: 'ACT/360', events, ...more }));
/** Rows as day, kind, interest, payment, principal, extra, added, closing, unpaid. */
const rows = (schedule: LoanSchedule, from = 0, to = 99): unknown[] =>
  loanRows(schedule)
    .slice(from, to)
    .map((row) => [
      ...[formatDay(row.date), row.kind, row.interest, row.payment],
      ...[row.principal, row.extra, row.added, row.closing, row.unpaid],
    ]);
const notices = ({ notices: told }: LoanSchedule): unknown[] =>
  told.map(({ on, kind, stated, applied }) => [formatDay(on), kind, stated, applied]);

describe('between due dates', () => {
  it('a draw joins the balance on its day, and is refused once the loan is repaid', () => {
    expect(rows(loan([draw('2025-02-11', 100_000)]), 1, 3)).toEqual([
      ['2025-02-11', 'draw', 0, 0, 0, 0, 100_000, 200_000, 0],
      ['2025-03-01', 'payment', 1_000 + 3_600, 4_600, 0, 0, 0, 200_000, 0],
    ]);
    expect(() => loan([draw('2025-05-02', 1)])).toThrow('By 2025-05-02 the loan is repaid');
    // The last payment comes before what is drawn on its day.
    expect(() => loan([draw('2025-05-01', 1)])).toThrow('By 2025-05-01 the loan is repaid');
    expect(rows(loan([draw('2025-04-30', 100)]), 4)).toEqual([
      ['2025-05-01', 'payment', 3_000, 103_100, 100_100, 0, 0, 0, 0],
    ]);
  });

  it('interest that is added joins the balance with what is in arrears, and earns from its day on', () => {
    const added: LoanEvent = { type: 'interest-added', on: day('2025-02-11') };
    expect(rows(loan([added]), 1, 3)).toEqual([
      ['2025-02-11', 'interest-added', 1_000, 0, 0, 0, 1_000, 101_000, 0],
      ['2025-03-01', 'payment', 1_818, 1_818, 0, 0, 0, 101_000, 0],
    ]);
    const arrears = loan([paid('2025-02-01', '2025-02-01', 0), added]);
    expect(rows(arrears, 0, 2)).toEqual([
      ['2025-02-01', 'payment', 3_100, 0, 0, 0, 0, 100_000, 3_100],
      ['2025-02-11', 'interest-added', 1_000, 0, 0, 0, 4_100, 104_100, 0],
    ]);
    expect(loanFlows(arrears).slice(0, 3)).toEqual([
      { on: day('2025-01-01'), drawn: 100_000, added: 0, paid: 0, interest: 0, principal: 0 },
      { on: day('2025-02-01'), drawn: 0, added: 0, paid: 0, interest: 0, principal: 0 },
      { on: day('2025-02-11'), drawn: 0, added: 4_100, paid: 0, interest: 0, principal: 0 },
    ]);
  });

  it('extra principal lessens the balance, never below nothing, and says what was cut', () => {
    expect(rows(loan([extra('2025-02-11', 40_000)]), 1, 3)).toEqual([
      ['2025-02-11', 'extra', 0, 0, 0, 40_000, 0, 60_000, 0],
      ['2025-03-01', 'payment', 1_000 + 1_080, 2_080, 0, 0, 0, 60_000, 0],
    ]);
    const over = loan([extra('2025-02-11', 100_001)]);
    expect(rows(over, 1)).toEqual([
      ['2025-02-11', 'extra', 0, 0, 0, 100_000, 0, 0, 0],
      ['2025-03-01', 'payment', 1_000, 1_000, 0, 0, 0, 0, 0],
    ]);
    expect(notices(over)).toEqual([['2025-02-11', 'extra-cut', 100_001, 100_000]]);
    expect(notices(loan([extra('2025-02-11', 100_000)]))).toEqual([]);
    // Nothing left to lessen makes no row.
    expect(rows(loan([extra('2025-02-11', 100_000), extra('2025-02-12', 5)])).length).toBe(3);
  });

  it('a settlement pays all that is owed to its day, or what is agreed, and ends the loan', () => {
    const settled = (amount?: number): LoanSchedule =>
      loan([
        paid('2025-02-01', '2025-02-01', 0),
        { type: 'settled', on: day('2025-02-11'), ...(amount !== undefined && { amount }) },
      ]);
    expect(rows(settled(), 1)).toEqual([['2025-02-11', 'settlement', 1_000, 104_100, 100_000, 0, 0, 0, 0]]);
    expect(settled().settlement).toEqual({ on: day('2025-02-11'), row: 1, owed: 104_100, paid: 104_100 });
    expect(settled(90_000).settlement).toMatchObject({ owed: 104_100, paid: 90_000 });
    // On a due date its own row settles it.
    const due = loan([{ type: 'settled', on: day('2025-03-01') }]);
    expect(rows(due, 1)).toEqual([['2025-03-01', 'payment', 2_800, 102_800, 100_000, 0, 0, 0, 0]]);
    expect(due.settlement).toMatchObject({ row: 1, owed: 102_800 });
  });
});

describe('a payment on another day', () => {
  it('late pays what was billed, then principal, and is charged to its own day only where it repays all', () => {
    expect(rows(loan([paid('2025-02-01', '2025-02-11', 3_100)]), 0, 3)).toEqual([
      ['2025-02-01', 'payment', 3_100, 0, 0, 0, 0, 100_000, 3_100],
      ['2025-02-11', 'late-payment', 0, 3_100, 0, 0, 0, 100_000, 0],
      ['2025-03-01', 'payment', 2_800, 2_800, 0, 0, 0, 100_000, 0],
    ]);
    expect(rows(loan([paid('2025-02-01', '2025-02-11', 3_600)]), 1, 2)).toEqual([
      ['2025-02-11', 'late-payment', 0, 3_100, 0, 500, 0, 99_500, 0],
    ]);
    const all = loan([paid('2025-02-01', '2025-02-11', 104_101)]);
    expect(rows(all, 1)).toEqual([['2025-02-11', 'overdue-payment', 1_000, 104_100, 100_000, 0, 0, 0, 0]]);
    expect(notices(all)).toEqual([['2025-02-11', 'overpaid', 104_101, 104_100]]);
    expect([...all.overpaid.slice(0, 2)]).toEqual([0, 1]);
  });

  it('early pays the interest to its own day first, then principal that its row asks for no more', () => {
    const parts = loan(
      [paid('2025-03-01', '2025-02-11', 5_000), paid('2025-03-01', '2025-03-01', 1_710)],
      {},
      [level(4)],
    );
    const asked = loanRows(loan([], {}, [level(4)]))[0]?.payment ?? 0;
    const [first, early, second] = loanRows(parts);
    // Ten days are one percent of what is left after the first payment.
    const interest = Math.round((first?.closing ?? 0) / 100);
    expect([early?.kind, early?.interest, early?.payment, early?.principal, early?.extra]).toEqual([
      'early-payment',
      interest,
      5_000,
      5_000 - interest,
      0,
    ]);
    // Of what its agreement asks beyond what was recorded, principal is in arrears.
    expect(second?.payment).toBe(1_710);
    expect(parts.principalInArrears[2]).toBe(asked - 5_000 - 1_710);
  });

  it('after the last due date is charged to its own day, and what comes back is no more than came', () => {
    const late = loan([paid('2025-05-01', '2025-05-01', 3_000), paid('2025-05-02', '2025-05-11', 101_100)]);
    expect(rows(late, 4)).toEqual([['2025-05-11', 'overdue-payment', 1_000, 101_000, 100_000, 0, 0, 0, 0]]);
    const over = [paid('2025-05-01', '2025-05-01', 103_005)];
    const back = (amount: number): LoanSchedule =>
      loan([...over, { type: 'overpayment-returned', on: day('2025-05-10'), amount }]);
    expect(rows(back(5), 4)).toEqual([['2025-05-10', 'overpayment-returned', 0, 0, 0, 0, 0, 0, 0]]);
    expect(back(5).overpaid[4]).toBe(0);
    expect(back(4).overpaid[4]).toBe(1);
    expect(() => back(6)).toThrow('On 2025-05-10 0.05 is overpaid, so no more can come back');
    // Extra principal then repays what is overdue, and says what was not needed.
    const cut = loan([paid('2025-05-01', '2025-05-01', 3_000), extra('2025-05-11', 101_005)]);
    expect(rows(cut, 4)).toEqual([['2025-05-11', 'overdue-payment', 1_000, 101_000, 100_000, 0, 0, 0, 0]]);
    expect(notices(cut).at(-1)).toEqual(['2025-05-11', 'extra-cut', 101_005, 101_000]);
  });
});

describe('sums of a schedule', () => {
  const schedule = loan([draw('2025-02-11', 100_000), extra('2025-02-15', 50_000)], {}, [
    { type: 'no-payment', count: 1, interest: 'kept-apart', then: 'pay' },
    { type: 'interest-only', count: 2 },
  ]);

  it('are of the rows that are asked for, and of payments in which something is paid', () => {
    const interest = loanRows(schedule).map((row) => row.interest);
    expect(totalOf(schedule, 'interest')).toBe(interest.reduce((sum, each) => sum + each, 0));
    expect(totalOf(schedule, 'interest', 1, 4)).toBe(
      interest.slice(1, 4).reduce((sum, each) => sum + each, 0),
    );
    expect([totalDrawn(schedule), totalDrawn(loan([]))]).toEqual([100_000, 0]);
    const deferred: Phase[] = [
      { type: 'no-payment', count: 2, interest: 'added-each-period', then: 'pay' },
      level(3),
    ];
    expect(paymentsMade(loan([], {}, deferred))).toBe(3);
    expect(paymentsMade(loan([], {}, deferred), 2, 4)).toBe(2);
    expect(paymentsMade(schedule)).toBe(3);
  });
});
