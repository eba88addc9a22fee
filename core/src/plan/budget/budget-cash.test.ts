import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatDay, monthEnd } from '../../calendar/calendar-day.ts';
import { debtKindOf } from '../../kinds/kinds.ts';
import { buildLoanSchedule } from '../../loan/schedule/build-loan-schedule.ts';
import type { LoanTerms, Phase } from '../../loan/terms/loan-terms.ts';
import { arbitraryLoan } from '../../testing/arbitrary-loan.ts';
import { day, level, percent, plainLoan } from '../../testing/plain-loan.ts';
import { member, spent } from '../../testing/plain-plan.ts';
import type { PlanMember } from '../plan.ts';
import { budgetProofs } from './budget-proofs.ts';
import { budgetOutcome, isOutcome, type BudgetOutcome, type BudgetUse } from './budget.ts';

const on = day('2026-10-31');

const loan = (name: string, phases: Phase[], more: Partial<LoanTerms>, least = 0): PlanMember =>
  member(buildLoanSchedule(plainLoan(phases, more)), name, least);

const mould = loan('Mould shop mortgage', [level(60, 300)], {
  amount: 100_000_000,
  annualRate: percent('5'),
  start: day('2026-01-20'),
  first: day('2026-02-20'),
  atEnd: 'leave',
});
const yearly = (least = 0): PlanMember =>
  loan(
    'Yearly',
    [level(10)],
    {
      amount: 10_000_000,
      annualRate: percent('5'),
      every: 'year',
      start: day('2025-11-30'),
      first: day('2026-11-30'),
    },
    least,
  );
const monthly = (least = 0): PlanMember =>
  loan(
    'Monthly',
    [level(60)],
    {
      amount: 5_000_000,
      annualRate: percent('8'),
      start: day('2026-10-15'),
      first: day('2026-11-15'),
    },
    least,
  );
const turns: readonly BudgetUse[] = ['highest-rate', 'smallest-balance', ['Monthly', 'Yearly']];

describe('a budget is cash', () => {
  // Each figure worked by hand from the loan's own schedule: 885,801.93 is left by 5,845.90 a month, each 10 cents more
  // grow at 5 % ÷ 12 over the 51 payments from November 2026: 0.10 × (1.0041667^51 − 1) ÷ 0.0041667 = 5.67.
  it('does not clear what an agreement leaves at its end, and says how much that is', () => {
    const made = spent([mould], on, 584_600, 'highest-rate');
    expect(made.clears).toBeUndefined();
    expect(made.members[0]).toMatchObject({ clears: undefined, left: 88_580_193 - 567 });
    expect(made.left).toBe(made.members[0]?.left);
    expect(formatDay(made.months.at(-1)?.month ?? 0)).toBe('2031-01-31');
    expect(budgetProofs(made, 584_600).every(({ holds }) => holds)).toBe(true);
    expect(budgetProofs({ ...made, left: 0 }, 584_600).map(({ holds }) => holds)).toEqual([
      false,
      true,
      true,
    ]);
  });

  it('pays on where a renewal is agreed', () => {
    const renewed = loan('Mould shop mortgage', [level(60, 300)], {
      ...(mould.schedule.terms as LoanTerms),
      events: [
        { type: 'renewal', on: day('2031-01-20'), annualRate: percent('5'), count: 240, amortizeOver: 240 },
      ],
    });
    const made = spent([renewed], on, 584_600, 'highest-rate');
    expect(made.left).toBe(0);
    expect(made.clears).toBeGreaterThan(day('2050-01-01'));
  });

  it('has no common day where none is within it, and names the least that has one', () => {
    const none = (members: readonly PlanMember[], amount: number): number => {
      const made = budgetOutcome(members, on, amount, 'same-day');
      if (isOutcome(made)) throw new Error('There is one.');
      expect(spent(members, on, made.least, 'same-day').short).toBeUndefined();
      expect(isOutcome(budgetOutcome(members, on, made.least - 1, 'same-day'))).toBe(false);
      return made.least;
    };
    // By 20 January 2031, its last due date: 984,632.55 × i ÷ (1 − (1 + i)^−51) = 21,470.478 at i = 5 % ÷ 12.
    expect(none([mould], 584_600)).toBe(2_147_048);
    // 50,000.00 and 5,000.00 in November; then the yearly one is asked for again in a year.
    expect(none([yearly(5_000_000), monthly(500_000)], 209_303)).toBe(5_500_000);
  });

  it('refuses a month that asks for more than is there, with what is missing', () => {
    const members = [yearly(), monthly()];
    for (const use of turns) {
      // 12,950.46 and 1,013.82 of 2,093.03.
      const { short } = spent(members, on, 209_303, use);
      expect(short).toEqual({
        month: day('2026-11-30'),
        missing: 1_295_046 + 101_382 - 209_303,
        covers: 1_396_428,
      });
      expect(spent(members, on, 1_396_428, use).short).toBeUndefined();
    }
  });

  it('pays at least what is stated, in every way', () => {
    const members = [yearly(), monthly(200_000)];
    for (const use of turns) {
      const [, of] = spent(members, on, 1_600_000, use).members;
      of?.rows.slice(0, -1).forEach(({ paid }) => expect(paid).toBeGreaterThanOrEqual(200_000));
    }
  });

  it('keeps for a payment at the end what no other month could bring', () => {
    // 1.00 a month and 1,000.00 at the end of a year, and 50.00 a month, without interest, of 150.00: 1,800.00 come in, of
    // which 1,011.00 and 600.00 are asked for, so that 189.00 go beyond, as early as may be.
    const free = (amount: number): Partial<LoanTerms> => ({
      amount,
      annualRate: percent('0'),
      start: on,
      first: day('2026-11-30'),
      keepMonthEnd: true,
    });
    const balloon = loan('Balloon', [{ type: 'fixed', payment: 100, count: 11 }, level(1)], free(101_100));
    const level24 = loan('Level', [level(24)], free(120_000));
    const made = spent([{ ...balloon, prepay: false }, level24], on, 15_000, ['Level']);
    expect(made.short).toBeUndefined();
    expect(made.members[1]?.rows.slice(0, 4).map((row) => row.paid)).toEqual([14_900, 14_000, 5_000, 5_000]);
    expect(made.months[11]?.cash).toBe(0);
  });

  it('is whole minor units, also where nothing is rounded', () => {
    const weekly = (name: string, amount: number, rate: string): PlanMember =>
      loan(name, [level(150)], {
        amount,
        annualRate: percent(rate),
        every: 'week',
        start: day('2026-01-10'),
        first: day('2026-02-10'),
        rounding: { interest: 'none', payment: 'none', ties: 'away-from-zero' },
      });
    const members = [
      weekly('A', 30_000_000, '5'),
      weekly('B', 31_000_000, '5.3'),
      weekly('C', 32_000_000, '6.1'),
    ];
    for (const use of ['highest-rate', 'smallest-balance', ['B', 'A', 'C'], 'same-day'] as const) {
      const made = spent(members, on, 4_000_000, use);
      expect([made.short, made.left]).toEqual([undefined, 0]);
      expectCash(made, 4_000_000, on);
    }
  });

  it('holds for any loans, in every way', () => {
    const members = fc
      .array(fc.tuple(arbitraryLoan, fc.boolean(), fc.constantFrom(0, 0, 100_00)), {
        minLength: 1,
        maxLength: 4,
      })
      .map((of) =>
        of.map(([terms, prepay, least], at): PlanMember => {
          const schedule = buildLoanSchedule(terms);
          return { name: 'ABCD'.charAt(at), schedule, least, prepay };
        }),
      );
    const ways = ['same-day', 'highest-rate', 'smallest-balance', ['C', 'A', 'B', 'D']] as const;
    fc.assert(
      fc.property(
        members,
        fc.integer({ min: 30, max: 300 }),
        fc.integer({ min: 0, max: 900 }),
        (of, share, later) => {
          const from = Math.min(...of.map(({ schedule }) => (schedule.terms as LoanTerms).start)) + later;
          const owing = of.filter(({ schedule }) => debtKindOf(schedule).owed(schedule, from) > 0);
          if (owing.length === 0) return;
          const amount = Math.ceil((asksOf(owing, from) * share) / 100);
          for (const use of ways) {
            const made = budgetOutcome(owing, from, amount, use);
            if (isOutcome(made)) expectCash(made, amount, from);
            if (share >= 100 && use !== 'same-day') expect(made).toMatchObject({ short: undefined });
            if (!isOutcome(made)) {
              expect(made.least).toBeGreaterThan(amount);
              if (made.least < Infinity)
                expect(isOutcome(budgetOutcome(owing, from, made.least, use))).toBe(true);
            }
          }
        },
      ),
      { numRuns: 10 },
    );
  });
});

/** The least budget that pays what the contracts ask: told by one that is short of everything. */
function asksOf(members: readonly PlanMember[], from: number): number {
  return spent(members, from, 0, []).short?.covers ?? 0;
}

/** Cash comes in each month, pays what is paid, and is never below zero but where that is told. */
function expectCash(made: BudgetOutcome, amount: number, from: number): void {
  let cash = 0;
  let last = from;
  for (const { month, paid, cash: told } of made.months) {
    const rows = made.members.flatMap((each) => each.rows.filter(({ on: at }) => at > last && at <= month));
    expect(paid).toBe(rows.reduce((sum, row) => sum + row.paid, 0));
    cash += amount - paid;
    expect(told).toBe(cash);
    if (!made.short || month < made.short.month) expect(cash).toBeGreaterThanOrEqual(0);
    if (made.short?.month === month) expect(cash).toBe(-made.short.missing);
    expect(month).toBe(monthEnd(month));
    last = month;
  }
  for (const { clears, left, rows, balance, unpaid } of made.members) {
    const sum = (key: 'paid' | 'interest' | 'drawn'): number =>
      rows.reduce((total, row) => total + row[key], 0);
    expect(sum('paid') + left).toBe(balance + unpaid + sum('drawn') + sum('interest'));
    expect(clears === undefined).toBe(left > 0);
  }
  const proofs = budgetProofs(made, amount).map(({ holds }) => holds);
  expect(proofs).toEqual([true, true, made.short === undefined]);
}
