import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addMonths, monthEnd } from '../calendar/calendar-day.ts';
import { buildSchedule, firstDay, lastDay } from '../instrument/instrument.ts';
import type { Schedule } from '../kinds/schedules.ts';
import { position } from '../position/position.ts';
import { arbitraryBondWithEvents } from '../testing/arbitrary-bond.ts';
import { arbitraryLoanWithEvents } from '../testing/arbitrary-loan.ts';
import { day, level, percent, plainLoan } from '../testing/plain-loan.ts';
import { outlook, owedToTheEnd } from './outlook.ts';
import { portfolioPeriods } from './portfolio-periods.ts';
import { portfolioValues } from './portfolio.ts';

const anyDebt: fc.Arbitrary<Schedule> = fc
  .oneof(arbitraryLoanWithEvents, arbitraryBondWithEvents)
  .map((terms) => buildSchedule(terms));
const sum = (values: readonly number[]): number => values.reduce((total, value) => total + value, 0);

describe('what is to come of a debt', () => {
  it('is, with what came before, all that is ever paid of interest, and stands where its position stands', () => {
    fc.assert(
      fc.property(anyDebt, fc.integer({ min: -100, max: 2000 }), (schedule, after) => {
        const on = firstDay(schedule) + after;
        const { interest, owedAfter, ends, left } = outlook(schedule, on);
        const all = outlook(schedule, firstDay(schedule) - 1).interest;
        const [before] = portfolioValues(schedule, [{ from: firstDay(schedule), to: on }], 'interest');
        expect(interest + (after < 0 ? 0 : (before ?? 0))).toBe(all);
        const through = addMonths(on, 12, on === monthEnd(on));
        expect(owedAfter).toBe(position(schedule, through).outstanding);
        expect(ends).toBe(lastDay(schedule));
        const owed = owedToTheEnd(schedule, on);
        expect(owed[0]).toBe(position(schedule, on).outstanding);
        if (ends > on) expect(owed.at(-1)).toBe(left);
        const quarters = owedToTheEnd(schedule, on, 3);
        quarters.slice(0, -1).forEach((amount, at) => expect(amount).toBe(owed[3 * at]));
      }),
    );
  });

  it('pays in twelve months what the portfolio pays in them', () => {
    fc.assert(
      fc.property(anyDebt, fc.integer({ min: 0, max: 60 }), (schedule, months) => {
        const on = monthEnd(addMonths(firstDay(schedule), months, true));
        const periods = portfolioPeriods('month', on + 1, addMonths(on, 12, true));
        expect(outlook(schedule, on).months).toEqual(portfolioValues(schedule, periods, 'payment'));
      }),
    );
  });

  // Common practice: a level loan of 60 payments owes interest on what is left, and a year on twelve payments less.
  it('counts a year of a level loan, and what is left of it', () => {
    const schedule = buildSchedule(
      plainLoan([level(60)], { start: day('2026-01-31'), first: day('2026-02-28'), keepMonthEnd: true }),
    );
    const { months, ends, left } = outlook(schedule, day('2026-01-31'));
    // 100,000 at 6 % over 60 months: 1,933.28 each; widely printed, from memory.
    expect(new Set(months)).toEqual(new Set([193_328]));
    expect(sum(months)).toBe(12 * 193_328);
    expect([ends, left]).toEqual([day('2031-01-31'), 0]);
  });

  // Common practice: months end with the month where the day does, and else on the day of the month that it is.
  it('goes by months of the calendar from a month end, and by the day from any other', () => {
    // 100.00 of principal each month with 1 % of what is left, due on month ends from 2025-01-31 on.
    const schedule = buildSchedule(
      plainLoan([{ type: 'equal-principal', count: 24 }], {
        amount: 240_000,
        annualRate: percent('12'),
        ...{ start: day('2024-12-31'), first: day('2025-01-31'), keepMonthEnd: true },
      }),
    );
    const interest = (left: number): number => 10_000 + left / 100;
    // From 28 February: the end of March, of April and so on, each with its payment; a year on ends with February.
    const end = outlook(schedule, day('2025-02-28'));
    expect(end.months).toEqual(Array.from({ length: 12 }, (_, at) => interest(220_000 - 10_000 * at)));
    expect([end.owedAfter, end.interest]).toEqual([100_000, (22 * 23 * 10_000) / 2 / 100]);
    expect(outlook(schedule, day('2027-02-28')).owedAfter).toBe(0);
    // From 27 February: the payment of the 28th falls in the first month, and that of 2026-02-28 is a day too late.
    const before = outlook(schedule, day('2025-02-27'));
    expect(before.months).toEqual([
      interest(230_000),
      ...Array.from({ length: 11 }, (_, at) => interest(220_000 - 10_000 * at)),
    ]);
    expect(before.owedAfter).toBe(110_000);
    expect(owedToTheEnd(schedule, day('2026-09-30'))).toEqual([30_000, 20_000, 10_000, 0]);
    expect(owedToTheEnd(schedule, day('2026-09-29'))).toEqual([40_000, 30_000, 20_000, 10_000, 0]);
    expect(owedToTheEnd(schedule, day('2026-12-31'))).toEqual([0]);
    expect(owedToTheEnd(schedule, day('2026-06-30'), 3)).toEqual([60_000, 30_000, 0]);
    expect(owedToTheEnd(schedule, day('2026-05-31'), 6)).toEqual([70_000, 10_000, 0]);
  });
});
