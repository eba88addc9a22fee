import { describe, expect, it } from 'vitest';
import { cycleDate, type DateCycle } from '../calendar/payment-dates.ts';
import { formatDay } from '../calendar/calendar-day.ts';
import { entryOf } from '../entries/entry.ts';
import { amortizedBetween } from '../position/amortized.ts';
import { classificationOn } from '../position/classification.ts';
import { maturities } from '../position/maturities.ts';
import { position } from '../position/position.ts';
import { isDeferred } from './costs/issue-costs.ts';
import { buildLoanSchedule } from './schedule/build-loan-schedule.ts';
import type { LoanEvent } from './terms/loan-events.ts';
import type { LoanTerms } from './terms/loan-terms.ts';
import { day, level, percent, plainLoan, rowsOf, thousand } from '../testing/plain-loan.ts';

// Where a rule changes with a day or an amount: what holds before it, on it, and after it.

describe('dates', () => {
  const halfMonths = (anchor: string, count: number): string[] => {
    const cycle: DateCycle = { anchor: day(anchor), every: 'half-month', keepMonthEnd: false };
    return Array.from({ length: count }, (_, at) => formatDay(cycleDate(cycle, at)));
  };

  // Common practice in payrolls and leases: twice a month on fixed days, fifteen days apart.
  it.each([
    ['2024-01-14', ['2024-01-14', '2024-01-29', '2024-02-14', '2024-02-29']],
    ['2024-01-15', ['2024-01-15', '2024-01-30', '2024-02-15', '2024-02-29']],
    ['2024-01-16', ['2024-01-16', '2024-02-01', '2024-02-16', '2024-03-01']],
  ])('half-months from %s', (anchor, dates) => {
    expect(halfMonths(anchor, 4)).toEqual(dates);
  });

  // Loan agreements, common practice: a new rate counts from the day that it is agreed from, that day included.
  it.each([
    ['2025-01-01', 31 * 24],
    ['2025-01-02', 12 + 30 * 24],
    ['2025-01-31', 30 * 12 + 24],
    ['2025-02-01', 31 * 12],
  ])('a rate that doubles on %s', (from, daysOfPercent) => {
    const doubled = { from: day(from), annualRate: percent('24'), payment: 'keep' } as const;
    const [first] = rowsOf(thousand([level(5)], { dayCount: 'ACT/360', rateSteps: [doubled] }));
    expect(first?.interest).toBe(Math.round((100_000 * daysOfPercent) / 36_000));
  });
});

describe('extra principal', () => {
  const missed: LoanEvent = { type: 'paid', due: day('2025-02-01'), on: day('2025-02-01'), amount: 0 };
  const extra = (amount: number): LoanTerms =>
    thousand([level(5)], {
      events: [missed, { type: 'extra-principal', on: day('2025-02-10'), amount, then: 'shorten' }],
    });

  // It repays principal; interest that is owed waits for a payment. Common practice.
  it('is cut to the balance, whatever interest is owed besides', () => {
    const ofRow = (amount: number): unknown => {
      const schedule = buildLoanSchedule(extra(amount));
      const { notices } = schedule;
      const row = rowsOf(extra(amount)).find(({ kind }) => kind === 'extra');
      return [row?.extra, row?.closing, row?.unpaid, notices.some(({ kind }) => kind === 'extra-cut')];
    };
    expect(ofRow(99_999)).toEqual([99_999, 1, 1_000, false]);
    expect(ofRow(100_000)).toEqual([100_000, 0, 1_000, false]);
    expect(ofRow(100_001)).toEqual([100_000, 0, 1_000, true]);
  });

  it('with each payment comes with those from its first day to its last', () => {
    const regular: LoanEvent = {
      type: 'extra-each-payment',
      from: day('2025-03-01'),
      to: day('2025-04-01'),
      amount: 1_000,
      then: 'shorten',
    };
    const taken = rowsOf(thousand([level(6)], { events: [regular] })).map(({ extra: each }) => each);
    expect(taken).toEqual([0, 1_000, 1_000, 0, 0, 0]);
  });
});

describe('a limit', () => {
  const drawing = (amount: number): LoanTerms =>
    plainLoan([{ type: 'interest-only', count: 3 }], {
      kind: 'credit-line',
      amount: 0,
      dayCount: 'ACT/360',
      creditLine: { limit: 5_000_000, unusedFee: percent('0.5') },
      events: [{ type: 'draw', on: day('2024-01-20'), amount, then: 'keep' }],
    });

  it('is reached by a draw, and not passed', () => {
    expect(buildLoanSchedule(drawing(4_999_999)).closing[0]).toBe(4_999_999);
    expect(buildLoanSchedule(drawing(5_000_000)).closing[0]).toBe(5_000_000);
    expect(() => buildLoanSchedule(drawing(5_000_001))).toThrow('at most 50000.00 can be drawn');
  });

  // IAS 1.69(d), 1.76: without an end that is agreed, nobody has a right to put settlement off for a year.
  it('of a line without a maturity is current, all of it', () => {
    const open = buildLoanSchedule({ ...drawing(4_000_000), atEnd: 'leave' });
    expect(position(open, day('2024-01-31'))).toMatchObject({ current: 4_000_000, nonCurrent: 0 });
    expect(maturities(open, day('2024-01-31'))).toEqual([4_000_000, 0, 0, 0, 0, 0]);
  });
});

describe('a fee to be deferred', () => {
  // There is nothing left to spread it over on the day of the last payment (ASC 835-30-35-2: over the life of the debt).
  it.each([
    ['2025-05-31', true],
    ['2025-06-01', false],
    ['2025-06-02', false],
  ])('on %s', (on, deferred) => {
    const fee: LoanEvent = { type: 'fee', on: day(on), amount: 500, treatment: 'defer' };
    const schedule = buildLoanSchedule(thousand([level(5)], { events: [fee] }));
    expect(isDeferred(schedule, fee)).toBe(deferred);
  });

  it('is amortized whole, in whichever stretches of time it is looked at', () => {
    const terms = thousand([level(5)], { issueCosts: { amount: 3_000, method: 'straight-line' } });
    const schedule = buildLoanSchedule(terms);
    const days = ['2025-01-01', '2025-02-15', '2025-03-31', '2025-06-01'].map(day);
    const parts = days.slice(1).map((to, at) => amortizedBetween(schedule, days[at] as number, to));
    expect(parts.every((part) => part > 0)).toBe(true);
    expect(parts.reduce((sum, part) => sum + part, 0)).toBe(3_000);
  });
});

describe('what falls due within a year', () => {
  // IAS 1.69 to 1.76; a month's end stays one (common practice).
  it('counts a payment on the day a year on, and none after it', () => {
    const yearly = (first: string): LoanTerms =>
      thousand([level(2)], { start: day('2026-06-30'), every: 'year', first: day(first) });
    const within = (first: string): number[] =>
      maturities(buildLoanSchedule(yearly(first)), day('2027-02-28'))
        .slice(0, 2)
        .map(Math.sign);
    // From the last day of February 2027 a year reaches to the last day of February 2028.
    expect(within('2028-02-29')).toEqual([1, 1]);
    expect(within('2028-03-01')).toEqual([0, 1]);
  });

  it('is never more than is left, with what is in arrears', () => {
    const missed: LoanEvent[] = ['2025-05-01', '2025-06-01'].map((due) => ({
      type: 'paid',
      due: day(due),
      on: day(due),
      amount: 0,
    }));
    const schedule = buildLoanSchedule(thousand([level(5)], { events: missed }));
    for (const on of ['2025-04-30', '2025-05-31', '2025-06-30'].map(day)) {
      const { outstanding, current } = position(schedule, on);
      expect(current).toBe(outstanding);
    }
  });

  it('nothing once all is repaid', () => {
    expect(maturities(buildLoanSchedule(thousand([level(5)])), day('2025-06-01'))).toEqual([
      0, 0, 0, 0, 0, 0,
    ]);
  });
});

describe('a presentation that is stated', () => {
  const stated = (on: string, as: 'current' | 'non-current', to?: string): LoanEvent => ({
    type: 'presentation',
    on: day(on),
    as,
    reason: 'covenant',
    ...(to !== undefined && { to: day(to) }),
  });

  it('holds from its first day to its last', () => {
    const events = [stated('2025-03-31', 'current', '2025-06-30')];
    const on = ['2025-03-30', '2025-03-31', '2025-06-30', '2025-07-01'];
    expect(on.map((each) => classificationOn(events, day(each))?.as)).toEqual([
      undefined,
      'current',
      'current',
      undefined,
    ]);
  });

  it('gives way to one from a later day, in whatever order they were stated', () => {
    const breach = stated('2025-03-31', 'current');
    const refinanced = stated('2025-05-31', 'non-current');
    for (const events of [
      [breach, refinanced],
      [refinanced, breach],
    ]) {
      expect(classificationOn(events, day('2025-05-30'))?.as).toBe('current');
      expect(classificationOn(events, day('2025-05-31'))?.as).toBe('non-current');
    }
  });
});

// Double-entry bookkeeping: debits are credits, to the minor unit.
it('an entry that is off by one minor unit is refused', () => {
  const entry = (credit: number): unknown =>
    entryOf(day('2025-01-31'), 'payment', 'Payment', 1, [
      ['interest-expense', 100],
      ['cash', -credit],
    ])?.lines.length;
  expect(entry(100)).toBe(2);
  expect(() => entry(99)).toThrow('off by 1');
  expect(() => entry(101)).toThrow('off by -1');
});
