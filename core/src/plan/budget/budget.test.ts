import { describe, expect, it } from 'vitest';
import { monthEnd, type CalendarDay } from '../../calendar/calendar-day.ts';
import { buildLoanSchedule } from '../../loan/schedule/build-loan-schedule.ts';
import type { LoanSchedule } from '../../loan/schedule/loan-schedule.ts';
import { day, level, plainLoan } from '../../testing/plain-loan.ts';
import { member, members, spent, three } from '../../testing/plain-plan.ts';
import { budgetMonths } from './budget-months.ts';
import { contractualYearly } from './budget.ts';
import { byContract } from '../plan.ts';

describe('a budget', () => {
  const on = day('2026-10-31');
  const least = Math.ceil(contractualYearly(members, on) / 12);
  const uses = ['same-day', 'highest-rate', 'smallest-balance', ['C', 'A', 'B']] as const;

  it.each(uses)('is spent each month and no more, until everything is cleared: %s', (use) => {
    const made = spent(members, on, 40_000, use);
    const cash = use === 'same-day' ? 40_000 - made.unspent : 40_000;
    made.months.slice(0, -1).forEach(({ paid }) => expect(paid).toBe(cash));
    expect(made.months.at(-1)?.paid).toBeLessThanOrEqual(cash);
    const paid = made.months.reduce((sum, month) => sum + month.paid, 0);
    expect(paid - 1_550_782).toBe(made.interest);
  });

  it.each(uses)('goes, month by month, where its loans are paid, the contract first: %s', (use) => {
    const made = spent(members, on, 40_000, use);
    const months = budgetMonths(members, on, made);
    expect(months.map(({ month }) => month)).toEqual(made.months.map(({ month }) => month));
    months.forEach(({ members: each, month }, at) => {
      const paid = each.reduce((sum, { asked, extra }) => sum + asked + extra, 0);
      expect(paid).toBe(made.months[at]?.paid);
      each.forEach(({ asked, extra }, of) => {
        const { schedule } = members[of] as (typeof members)[number];
        const agreed = byContract(schedule, on)
          .rows.filter((row) => monthEnd(row.on) === month)
          .reduce((sum, row) => sum + row.paid, 0);
        // Beyond its contract only what it asks is paid first.
        expect(asked).toBeLessThanOrEqual(agreed);
        if (extra > 0) expect(asked).toBe(agreed);
      });
    });
  });

  it('costs least by the highest rate, and pays the smallest off first where that is meant', () => {
    const [byDay, byRate, byBalance, own] = uses.map((use) => spent(members, on, 40_000, use));
    expect(byRate?.interest).toBeLessThan(byBalance?.interest ?? 0);
    expect(byRate?.interest).toBeLessThan(own?.interest ?? 0);
    expect(byRate?.interest).toBeLessThan(byDay?.interest ?? 0);
    const clears = (outcome = byBalance): CalendarDay[] =>
      outcome?.members.map((each) => each.clears ?? 0) ?? [];
    const [a, b, c] = clears() as [CalendarDay, CalendarDay, CalendarDay];
    expect(c < a && a < b).toBe(true);
    const [first, second, third] = clears(own) as [CalendarDay, CalendarDay, CalendarDay];
    expect(third < first && first < second).toBe(true);
  });

  it('of what the contracts ask is their schedules', () => {
    const made = spent(members, on, least, 'highest-rate');
    const contractual = members.reduce((sum, { schedule }) => sum + byContract(schedule, on).interest, 0);
    expect(made.interest).toBeLessThanOrEqual(contractual);
    expect(contractual - made.interest).toBeLessThan(5_000);
  });

  it('sets aside evenly for a payment of each quarter', () => {
    const quarterly = buildLoanSchedule(
      plainLoan([level(12)], {
        every: 'quarter',
        start: day('2026-10-31'),
        first: day('2027-01-31'),
        keepMonthEnd: true,
      }),
    );
    const both = [member(quarterly, 'Q'), member(three[0] as LoanSchedule, 'A')];
    const quarter = byContract(quarterly, on).payment;
    const made = spent(both, on, 20_000_000, ['A', 'Q']);
    // All that is left of the first month after a third of the quarter's payment goes to the monthly loan.
    const [november] = made.months;
    const third = Math.floor(quarter / 3);
    expect(november?.paid).toBe(Math.min(20_000_000 - third, 531_554 + Math.round((531_554 * 0.079) / 12)));
  });
});
