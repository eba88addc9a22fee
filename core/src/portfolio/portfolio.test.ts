import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addMonths, calendarFields, monthEnd } from '../calendar/calendar-day.ts';
import { entries } from '../entries/entries.ts';
import { buildSchedule, firstDay, lastDay } from '../instrument/instrument.ts';
import type { Schedule } from '../kinds/schedules.ts';
import { position } from '../position/position.ts';
import { interestExpense } from '../position/interest-expense.ts';
import { arbitraryBondWithEvents } from '../testing/arbitrary-bond.ts';
import { arbitraryLoanWithEvents } from '../testing/arbitrary-loan.ts';
import { day, level, plainLoan } from '../testing/plain-loan.ts';
import { portfolioPeriods, portfolioSteps } from './portfolio-periods.ts';
import { movementOver, movementProof, portfolioValues } from './portfolio.ts';

const anyDebt: fc.Arbitrary<Schedule> = fc
  .oneof(arbitraryLoanWithEvents, arbitraryBondWithEvents)
  .map((terms) => buildSchedule(terms));

/** Any span that may begin before a debt and end after it. */
const anySpan = fc.record({
  before: fc.integer({ min: -400, max: 900 }),
  days: fc.integer({ min: 0, max: 3000 }),
});
const sum = (values: readonly number[]): number => values.reduce((total, value) => total + value, 0);

/** Cash that the entries of some days give out, by the ledger. */
function cashPaid(schedule: Schedule, from: number, to: number): number {
  return entries(schedule, from, to, 'none')
    .filter(({ kind }) => kind !== 'issue')
    .flatMap(({ lines }) => lines)
    .reduce((total, { account, credit }) => total + (account === 'cash' ? credit : 0), 0);
}

describe('periods of a portfolio', () => {
  it.each(portfolioSteps)(
    'adjoin, end on month ends, and are whole but for the first and the last: by %s',
    (step) => {
      fc.assert(
        fc.property(
          fc.integer({ min: 18_000, max: 22_000 }),
          fc.nat(4000),
          fc.integer({ min: 1, max: 12 }),
          (from, days, month) => {
            const periods = portfolioPeriods(step, from, from + days, month);
            expect(periods[0]?.from).toBe(from);
            expect(periods.at(-1)?.to).toBe(from + days);
            periods.slice(1).forEach((period, at) => expect(period.from).toBe((periods[at]?.to ?? 0) + 1));
            for (const { to } of periods.slice(0, -1)) {
              expect(to).toBe(monthEnd(to));
              const months = { month: 1, quarter: 3, year: 12 }[step];
              expect((calendarFields(to).month + 12 - month) % months).toBe(0);
            }
            const whole = periods.slice(1, -1);
            const months = { month: 1, quarter: 3, year: 12 }[step];
            for (const { from: begins, to } of whole) expect(addMonths(begins - 1, months, true)).toBe(to);
          },
        ),
      );
    },
  );

  it('have one period where the first is the last', () => {
    expect(portfolioPeriods('year', day('2026-03-10'), day('2026-03-10'), 6)).toEqual([
      { from: day('2026-03-10'), to: day('2026-03-10') },
    ]);
  });
});

describe('a debt over periods', () => {
  it('moves from the opening to the closing balance over any span', () => {
    fc.assert(
      fc.property(
        anyDebt,
        anySpan,
        fc.constantFrom(...portfolioSteps),
        (schedule, { before, days }, step) => {
          const from = firstDay(schedule) + before;
          const periods = portfolioPeriods(step, from, from + days);
          const movement = movementOver(schedule, periods);
          expect(movementProof('x', [movement])).toMatchObject({ holds: true, difference: 0 });
          expect(portfolioValues(schedule, periods, 'closing').at(-1)).toBe(movement.closing);
          expect(sum(portfolioValues(schedule, periods, 'principal'))).toBe(movement.principal);
        },
      ),
    );
  });

  it('stands where its position stands', () => {
    fc.assert(
      fc.property(anyDebt, anySpan, (schedule, { before, days }) => {
        const from = firstDay(schedule) + before;
        const periods = portfolioPeriods('quarter', from, from + days);
        const at = periods.map(({ to }) => position(schedule, to));
        const of = (measure: 'closing' | 'carrying' | 'accrued' | 'current'): number[] =>
          portfolioValues(schedule, periods, measure);
        expect(of('closing')).toEqual(at.map(({ outstanding }) => outstanding));
        expect(of('carrying')).toEqual(at.map(({ carrying }) => carrying));
        expect(of('accrued')).toEqual(at.map(({ accruedInterest }) => accruedInterest));
        expect(of('current')).toEqual(at.map(({ current }) => current));
      }),
    );
  });

  it('expenses over periods what it expenses over all of them', () => {
    fc.assert(
      fc.property(anyDebt, anySpan, (schedule, { before, days }) => {
        const from = firstDay(schedule) + before;
        const values = portfolioValues(schedule, portfolioPeriods('month', from, from + days), 'expense');
        expect(sum(values)).toBe(interestExpense(schedule, from - 1, from + days));
      }),
    );
  });

  // Every payment is booked against cash, and a fee or an amount overpaid is no payment of the schedule.
  it('pays what the entries of the same days take from cash', () => {
    fc.assert(
      fc.property(
        anyDebt.filter(({ terms }) => terms.events.every(({ type }) => type !== 'fee' && type !== 'settled')),
        anySpan,
        (schedule, { before, days }) => {
          const from = firstDay(schedule) + before;
          const to = Math.min(from + days, lastDay(schedule));
          if (to < from || ('overpaid' in schedule && schedule.overpaid.some((amount) => amount > 0))) return;
          const paid = portfolioValues(schedule, portfolioPeriods('quarter', from, to), 'payment');
          if ('exact' in schedule && schedule.exact) return;
          expect(sum(paid)).toBe(cashPaid(schedule, from, to));
        },
      ),
    );
  });

  // Common practice: what falls on the last day of a month is of the month; a level payment is interest and principal.
  it('has a payment of a month’s last day in that month, split as the schedule splits it', () => {
    const schedule = buildSchedule(
      plainLoan([level(12)], { start: day('2026-01-31'), first: day('2026-02-28'), keepMonthEnd: true }),
    );
    const periods = portfolioPeriods('month', day('2026-01-15'), day('2026-03-30'));
    const of = (measure: 'payment' | 'interest' | 'principal' | 'closing'): number[] =>
      portfolioValues(schedule, periods, measure);
    const [payment, interest, principal, closing] = [
      of('payment'),
      of('interest'),
      of('principal'),
      of('closing'),
    ];
    expect(payment[0]).toBe(0);
    expect(payment[1]).toBe((interest[1] ?? 0) + (principal[1] ?? 0));
    expect(payment[2]).toBe(0);
    expect(closing).toEqual([
      schedule.terms.kind === 'loan' && schedule.terms.amount,
      closing[1],
      closing[1],
    ]);
    expect(closing[1]).toBe((closing[0] ?? 0) - (principal[1] ?? 0));
  });
});
