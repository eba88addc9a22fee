import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addMonths } from '../../calendar/calendar-day.ts';
import { balancesOf } from '../../entries/balances.ts';
import { entries } from '../../entries/entries.ts';
import { explainLoanFigure } from '../explain/explain-loan.ts';
import { ratio } from '../../money/ratio.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import type { LoanEvent, RecordedPayment } from '../terms/loan-events.ts';
import { loanRows } from '../schedule/loan-schedule.ts';
import type { LoanTerms } from '../terms/loan-terms.ts';
import { day, failing, level, plainLoan, rowsOf } from '../../testing/plain-loan.ts';

const paidFor = (due: number, on: number, amount: number): RecordedPayment => ({
  type: 'paid',
  due,
  on,
  amount,
});

describe('payments as they left the bank', () => {
  const terms = plainLoan([level(24)]);
  const rows = (...events: LoanEvent[]): ReturnType<typeof rowsOf> => rowsOf({ ...terms, events });
  const plain = rows();
  const due = day('2024-02-15');

  it('late: the interest is unpaid until then, and none is lost', () => {
    const paid = rows(paidFor(due, due + 10, plain[0]?.payment ?? 0));
    expect(paid[0]).toMatchObject({
      n: 1,
      payment: 0,
      interest: 50_000,
      unpaid: 50_000,
      closing: 10_000_000,
    });
    const { payment, principal } = plain[0] ?? {};
    expect(paid[1]).toMatchObject({ n: null, payment, principal, unpaid: 0 });
    expect(paid[2]?.interest).toBeGreaterThan(plain[1]?.interest ?? 0);
  });

  it('short: interest first, and the rest is carried', () => {
    const [first, second] = rows(paidFor(due, due, 30_000));
    expect(first).toMatchObject({ payment: 30_000, principal: 0, unpaid: 20_000 });
    expect(second?.principal).toBe((plain[1]?.payment ?? 0) - 50_000 - 20_000);
  });

  it('over: what is beyond the schedule is extra principal, and never more than is owed', () => {
    const over = rows(paidFor(due, due, (plain[0]?.payment ?? 0) + 1));
    expect(over[0]).toMatchObject({ extra: 1, principal: plain[0]?.principal });
    const far = buildLoanSchedule({ ...terms, events: [paidFor(due, due, 99_000_000)] });
    expect(far.length).toBe(1);
    expect(far.notices).toMatchObject([{ kind: 'overpaid', stated: 99_000_000, applied: 10_050_000 }]);
  });

  it('beyond all that a line owes: the next bills take it, and move no cash', () => {
    const start = day('2025-01-01');
    const bill = day('2025-02-01');
    const draw = (on: number, amount: number): LoanEvent => ({ type: 'draw', on, amount, then: 'keep' });
    const line = plainLoan([{ type: 'interest-only', count: 4 }], {
      amount: 0,
      annualRate: ratio(12n, 100n),
      dayCount: 'ACT/360',
      start,
      first: bill,
      creditLine: { limit: 100_000_000, unusedFee: ratio(0n) },
      events: [draw(start, 10_000_000), paidFor(bill, bill, 10_203_333), draw(bill, 3_000_000)],
    });
    const schedule = buildLoanSchedule(line);
    // 31 days of 100,000.00 are 1,033.33, so that 1,000.00 is over; then 28 days of 30,000.00 are 280.00.
    const bills = loanRows(schedule).filter(({ n }) => n !== null);
    expect(bills.map(({ interest, overpaid }) => [interest, overpaid]).slice(0, 2)).toEqual([
      [103_333, 100_000],
      [28_000, 72_000],
    ]);
    const second = balancesOf(entries(schedule, bill + 1, day('2025-03-01'), 'none'));
    expect([second.get('cash') ?? 0, second.get('overpayment')]).toEqual([0, -28_000]);
  });

  it('beyond all that is owed: apart, until it comes back', () => {
    const back: LoanEvent = { type: 'overpayment-returned', on: due + 5, amount: 50_000 };
    const repaid = buildLoanSchedule({ ...terms, events: [paidFor(due, due, 10_150_000), back] });
    expect(loanRows(repaid).map(({ kind, overpaid }) => [kind, overpaid])).toEqual([
      ['payment', 100_000],
      ['overpayment-returned', 50_000],
    ]);
    const told = [0, 1].map((row) => explainLoanFigure(repaid, row, 'overpaid').steps);
    expect(told.map((steps) => steps.map(({ amount }) => amount))).toEqual([
      [0, 100_000],
      [100_000, 50_000],
    ]);
    expect(() => buildLoanSchedule({ ...terms, events: [paidFor(due, due, 10_050_001), back] })).toThrow(
      '0.01 is overpaid',
    );
  });

  it('after the last due date: interest to its own day', () => {
    const last = plain.at(-1);
    const late = rows(paidFor(last?.due ?? 0, (last?.due ?? 0) + 31, 99_999_999));
    const overdue = Math.round((last?.opening ?? 0) / 200);
    expect(late.at(-1)?.interest).toBe(overdue);
    expect(late.at(-1)?.payment).toBe((last?.payment ?? 0) + overdue);
  });

  it('never: what is left is in arrears, which the proofs and a notice say', () => {
    const { due: lastDue = 0, opening = 0, interest = 0 } = plain.at(-1) ?? {};
    const missed = { ...terms, events: [paidFor(lastDue, lastDue, 0)] };
    expect(failing(missed)).toEqual([]);
    const schedule = buildLoanSchedule(missed);
    expect(schedule.notices).toMatchObject([{ kind: 'overdue-at-end', stated: opening + interest }]);
    expect(schedule.principalInArrears[schedule.length - 1]).toBe(opening);
  });

  it('arrears of principal end where a renewal lends the balance anew', () => {
    const renewed: LoanEvent = {
      type: 'renewal',
      on: day('2024-03-15'),
      annualRate: ratio(7n, 100n),
      count: 12,
      amortizeOver: 12,
    };
    const schedule = buildLoanSchedule({ ...terms, events: [paidFor(due, due, 0), renewed] });
    expect([...schedule.principalInArrears.slice(0, 3)]).toEqual([
      plain[0]?.principal,
      expect.any(Number),
      0,
    ]);
  });
});

/** A row as the plain walk below makes it: number, opening, payment, interest, principal, extra, closing, overpaid. */
type PlainRow = readonly [number, number, number, number, number, number, number, number];

/** What a drawn loan is made of; interest is on actual days over 360 or 365. */
interface Drawn {
  readonly amount: number;
  /** Hundredths of a percent a year. */
  readonly rate: number;
  readonly basis: 360 | 365;
  readonly start: number;
  readonly dues: readonly number[];
  readonly payment: number;
  readonly recorded: readonly RecordedPayment[];
}

/**
 * The rules once more, with whole numbers and no more than they need: interest of days between, rounded when it is
 * charged; what is paid goes to interest owed, then to principal fallen due, then beyond; a late payment pays no
 * interest that is not due yet, unless it repays everything; the last payment is all that is owed;
 * what nobody is owed stands apart.
 */
function plainWalk({ amount, rate, basis, start, dues, payment, recorded }: Drawn): PlainRow[] {
  const rows: PlainRow[] = [];
  const late = recorded.filter(({ on, due, amount: paid }) => on > due && paid > 0);
  late.sort((a, b) => a.on - b.on);
  let [balance, unpaid, behind, charged, accrued, number, over] = [amount, 0, 0, start, 0, 0, 0];
  const accrue = (to: number): void => {
    accrued += balance * rate * (to - charged);
    charged = to;
  };
  const charge = (): number => {
    const interest = Math.floor((2 * accrued + basis * 10_000) / (2 * basis * 10_000));
    accrued = 0;
    return interest;
  };
  const pay = (n: number, given: number, interest: number, most: number): void => {
    const paid = Math.min(given, balance + unpaid + interest);
    over += given - paid;
    const ofInterest = Math.min(paid, unpaid + interest);
    const principal = Math.min(paid - ofInterest, most, balance);
    const extra = paid - ofInterest - principal;
    const left = balance - principal - extra;
    rows.push([n, balance, ofInterest + principal, interest, principal, extra, left, over]);
    unpaid += interest - ofInterest;
    balance -= principal + extra;
    behind = Math.max(0, Math.min(balance, most - principal));
  };
  dues.forEach((due, at) => {
    const made = recorded.find((each) => each.due === due);
    const day = made && made.on < due && made.on > charged ? made.on : due;
    for (let next = late[0]; next && next.on <= day; next = late[0]) {
      late.shift();
      accrue(next.on);
      const whole = next.amount > balance + unpaid;
      const interest = whole ? charge() : 0;
      pay(0, next.amount, interest, whole ? balance : behind);
    }
    if (balance + unpaid + accrued === 0) {
      if (made && made.on <= due && made.amount > 0) late.push({ ...made, on: day });
      late.sort((a, b) => a.on - b.on);
      return;
    }
    accrue(day);
    const interest = charge();
    const owed = balance + unpaid + interest;
    const all = at === dues.length - 1 || payment >= owed;
    const scheduled = all ? balance : payment - interest;
    const asked = all ? owed : payment;
    number += 1;
    pay(number, !made ? asked : made.on > due ? 0 : made.amount, interest, scheduled + behind);
  });
  for (const { on, amount: paid } of late) {
    accrue(on);
    pay(0, paid, charge(), balance);
  }
  return rows;
}

/** A monthly loan whose payments come in any order, early and late, short and over, or not at all. */
const anyDrawn = fc
  .record({
    amount: fc.integer({ min: 100_000, max: 90_000_000 }),
    rate: fc.integer({ min: 1, max: 1500 }),
    basis: fc.constantFrom(360 as const, 365 as const),
    start: fc.integer({ min: day('2020-01-01'), max: day('2026-12-31') }),
    count: fc.integer({ min: 2, max: 24 }),
    recorded: fc.array(
      fc.record({
        at: fc.nat(23),
        days: fc.oneof(fc.constant(0), fc.integer({ min: -12, max: 27 }), fc.integer({ min: 28, max: 100 })),
        share: fc.oneof(fc.constantFrom(0, 1, 1.5), fc.double({ min: 0, max: 4, noNaN: true })),
      }),
      { maxLength: 12 },
    ),
  })
  .map(({ start, count, recorded, ...drawn }): Drawn => {
    const first = addMonths(start, 1);
    const dues = Array.from({ length: count }, (_, month) => addMonths(first, month));
    const payment = Math.ceil(drawn.amount / count + (drawn.amount * drawn.rate) / 120_000);
    const seen = new Set<number>();
    const paid = recorded.flatMap(({ at, days, share }): RecordedPayment[] => {
      const due = dues[at % count] as number;
      const on = Math.max(start + 1, due + days);
      if (seen.has(due) || seen.has(-on)) return [];
      seen.add(due).add(-on);
      return [paidFor(due, on, Math.round(payment * share))];
    });
    return { ...drawn, start, dues, payment, recorded: paid };
  });

describe('any run of payments', () => {
  it('makes the rows that the rules make when followed plainly', () => {
    fc.assert(
      fc.property(anyDrawn, (drawn) => {
        const { amount, rate, basis, start, dues, payment, recorded } = drawn;
        const terms: LoanTerms = plainLoan([level(dues.length, dues.length, payment)], {
          amount,
          annualRate: ratio(BigInt(rate), 10_000n),
          dayCount: basis === 360 ? 'ACT/360' : 'ACT/365F',
          start,
          first: dues[0] as number,
          events: recorded,
        });
        const made = rowsOf(terms).map(
          ({ n, opening, payment: paid, interest, principal, extra, closing, overpaid }): PlainRow => {
            return [n ?? 0, opening, paid, interest, principal, extra, closing, overpaid];
          },
        );
        expect(made).toEqual(plainWalk(drawn));
        expect(failing(terms)).toEqual([]);
      }),
      { numRuns: 500 },
    );
  });
});
