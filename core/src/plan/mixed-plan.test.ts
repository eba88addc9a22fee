import { describe, expect, it } from 'vitest';
import { formatDay } from '../calendar/calendar-day.ts';
import { paymentsPerYear } from '../calendar/frequency.ts';
import { buildSchedule } from '../instrument/instrument.ts';
import type { Schedule } from '../kinds/schedules.ts';
import { buildLoanSchedule } from '../loan/schedule/build-loan-schedule.ts';
import type { LoanSchedule } from '../loan/schedule/loan-schedule.ts';
import type { LoanTerms, Phase } from '../loan/terms/loan-terms.ts';
import { plainBond, priced } from '../testing/plain-bond.ts';
import { day, level, percent, plainLoan } from '../testing/plain-loan.ts';
import { member, spent, three } from '../testing/plain-plan.ts';
import type { BudgetOutcome, BudgetUse } from './budget/budget.ts';
import { frontier } from './frontier.ts';
import { byContract, isPlanned, planFor, type PlanMember } from './plan.ts';
import { planProofs, planTotals, planYears } from './plan-totals.ts';
import { presentValue, rateOfNoValue } from './present-value.ts';
import { crossings, leastWorth } from './worth-it.ts';

/** 1,000.00 at 5 %, bought back by nobody. */
const bondOf = (every: 'year' | 'half-year'): PlanMember => ({
  name: 'Bonds',
  schedule: buildSchedule(
    plainBond('5', {
      every,
      issued: day('2024-12-31'),
      dated: day('2024-12-31'),
      matures: day('2028-12-31'),
      face: 100_000,
      price: priced('100'),
    }),
  ),
  least: 0,
  prepay: false,
});
const bond = bondOf('year');
const quarterly = buildLoanSchedule(
  plainLoan(
    [
      { type: 'interest-only', count: 2 },
      { type: 'equal-principal', count: 10 },
    ],
    {
      amount: 900_000,
      every: 'quarter',
      start: day('2026-01-15'),
      first: day('2026-04-15'),
    },
  ),
);
const drawn = buildLoanSchedule(
  plainLoan([level(40)], {
    amount: 300_000,
    start: day('2026-01-15'),
    first: day('2026-02-15'),
    events: [
      { type: 'paid', due: day('2026-10-15'), on: day('2026-10-15'), amount: 0 },
      { type: 'draw', on: day('2027-03-01'), amount: 50_000, then: 're-level' },
    ],
  }),
);
const mixed = [member(three[0] as LoanSchedule, 'A'), bond, member(quarterly, 'Q'), member(drawn, 'D')];
const on = day('2026-10-31');
const fund = { annualRate: percent('2'), every: 'quarter' } as const;

describe('a plan of loans and bonds', () => {
  it('comes, horizon by horizon, to what each of its members does planned by itself', () => {
    const all = [...mixed, bondOf('half-year')];
    for (const [every, count] of [
      ['month', 30],
      ['year', 3],
    ] as const) {
      const horizons = [...frontier(all, on, { every, count }, fund)];
      expect(horizons).toHaveLength(count);
      horizons.forEach((horizon, at) => {
        expect(horizon.years).toBe(every === 'year' ? at + 1 : (at + 1) / 12);
        const alone = planFor(all, on, horizon.clearBy, fund);
        const planned = alone.filter(isPlanned);
        expect(horizon.without).toBe(alone.length - planned.length);
        const sum = (of: (each: (typeof planned)[number]) => number): number =>
          planned.reduce((total, each) => total + of(each), 0);
        expect(horizon.interest).toBe(sum(({ interest }) => interest));
        const deposits = sum((each) => (each.fund?.deposit ?? 0) * 4);
        expect(horizon.yearlyCash).toBe(sum((each) => each.payment * paymentsPerYear[each.every]) + deposits);
        // What a fund pays out counts against what is paid in.
        const saved = sum((each) =>
          each.fund ? each.fund.rows.reduce((all, { deposit }) => all + deposit, 0) : 0,
        );
        const goals = sum((each) => (each.fund ? 100_000 : 0));
        expect(horizon.payments.reduce((all, { amount }) => all + amount, 0)).toBe(
          sum(({ paid }) => paid) + saved - goals,
        );
        expect(horizon.payments.every((each) => each.on > on)).toBe(true);
      });
    }
    // The quarterly loan is first due in January, and what is drawn in March is not repaid before.
    const [november, december, january] = frontier(mixed, on, { every: 'month', count: 3 }, fund);
    expect([november?.without, december?.without, january?.without]).toEqual([2, 2, 1]);
  });

  // The same day so many months or years on; a month end stays one.
  it('has its horizons on the same day, or at month ends', () => {
    const days = (from: string, every: 'month' | 'year'): string[] =>
      [...frontier([], day(from), { every, count: 3 }, fund)].map(({ clearBy }) => formatDay(clearBy));
    expect(days('2026-11-30', 'month')).toEqual(['2026-12-31', '2027-01-31', '2027-02-28']);
    expect(days('2026-11-29', 'month')).toEqual(['2026-12-29', '2027-01-29', '2027-02-28']);
    expect(days('2027-02-28', 'year')).toEqual(['2028-02-29', '2029-02-28', '2030-02-28']);
  });

  it('needs no fund once what may not be repaid early is repaid, and one due date for each of the others', () => {
    const by = (clearBy: string): unknown => {
      const [made] = planFor([bond], on, day(clearBy), fund);
      return made && isPlanned(made) && [made.name, made.every, made.bound, made.fund?.rows.length];
    };
    expect(by('2028-12-30')).toEqual(['Bonds', 'year', 'fund', 9]);
    expect(by('2028-12-31')).toEqual(['Bonds', 'year', 'contract', undefined]);
    expect(planFor([member(quarterly, 'Q')], on, day('2027-01-14'), fund)).toEqual([
      { name: 'Q', every: 'quarter', earliest: day('2027-01-15') },
    ]);
    // A deposit stands on the day itself at the latest: the plan begins on the day after its own.
    const [first] = planFor([bond], on, day('2026-11-01'), { ...fund, every: 'year' });
    expect(
      first && isPlanned(first) && first.fund?.rows.map(({ due, deposit }) => [formatDay(due), deposit]),
    ).toEqual([['2026-11-01', 100_000]]);
    expect(planFor([bond], on, on, fund)).toEqual([{ name: 'Bonds', earliest: day('2027-01-31') }]);
  });

  it('pays coupons and face as they fall due, where nothing is repaid early', () => {
    const rows = (from: string): unknown[] =>
      byContract(bond.schedule, day(from)).rows.map(
        ({ on: due, paid, interest, principal, drawn: more, closing }) => [
          ...[formatDay(due), paid, interest, principal, more, closing],
        ],
      );
    const coupons = [2026, 2027].map((year) => [`${year}-12-31`, 5_000, 5_000, 0, 0, 100_000]);
    expect(rows('2026-12-30')).toEqual([...coupons, ['2028-12-31', 105_000, 5_000, 100_000, 0, 0]]);
    expect(rows('2026-12-31')).toHaveLength(2);
    expect(byContract(bond.schedule, on)).toMatchObject({
      balance: 100_000,
      payment: 5_000,
      interest: 15_000,
      paid: 115_000,
      bound: 'contract',
    });
    expect(byContract(bond.schedule, day('2028-12-31'))).toMatchObject({ payment: 0, paid: 0, rows: [] });
  });

  it('cross-foots by years with what is owed at their ends, and not where any sum is off', () => {
    const through = day('2029-12-31');
    const planned = planFor(mixed, on, day('2028-06-30'), fund).filter(isPlanned);
    expect(planned.map(({ unpaid }) => unpaid > 0)).toEqual([false, false, false, true]);
    const years = planned.map((each) => planYears(each, on, through, 12));
    const totals = planTotals(planned, years);
    expect(planProofs(planned, totals).every(({ holds }) => holds)).toBe(true);
    expect(totals.years.map(({ year, closing }) => [year, closing === 0])).toEqual([
      [2026, false],
      [2027, false],
      [2028, true],
      [2029, true],
    ]);
    // 5.00 of each 100.00 in each year of the bond, and its face in the last.
    expect(years[1]?.map((year) => [year.interest, year.principal, year.closing])).toEqual([
      [5_000, 0, 100_000],
      [5_000, 0, 100_000],
      [5_000, 100_000, 0],
      [0, 0, 0],
    ]);
    const failing = (more: Partial<typeof totals>): boolean[] =>
      planProofs(planned, { ...totals, ...more }).map(({ holds }) => holds);
    expect(failing({ interest: totals.interest + 1 })).toEqual([false, false]);
    expect(failing({ paid: totals.paid + 1 })).toEqual([true, false]);
    expect(failing({ balance: totals.balance - 1 })).toEqual([true, false]);
    // What is left at the end of the rows was not paid.
    const left = planned.map((each) => ({
      ...each,
      rows: each.rows.map((row) => ({ ...row, closing: row.closing + 1 })),
    }));
    expect(planProofs(left, totals).map(({ holds }) => holds)).toEqual([true, false]);
    expect(totals.yearlyCash).toBe(
      planned.reduce(
        (sum, each) => sum + each.payment * paymentsPerYear[each.every] + (each.fund?.deposit ?? 0) * 4,
        0,
      ),
    );
    expect(planTotals([], [])).toEqual({ balance: 0, interest: 0, paid: 0, yearlyCash: 0, years: [] });
  });

  // A fiscal year is called by the year that it ends in; the first day after the plan's own decides the first of them.
  it('begins with the year that the day after it lies in', () => {
    const first = (from: string, yearEnd: number): number | undefined =>
      planYears({ balance: 0, rows: [] }, day(from), day('2027-12-31'), yearEnd)[0]?.year;
    expect([first('2026-12-30', 12), first('2026-12-31', 12)]).toEqual([2026, 2027]);
    expect([first('2026-06-29', 6), first('2026-06-30', 6)]).toEqual([2026, 2027]);
  });
});

describe('a budget month by month', () => {
  /** Twelve equal payments without interest, from the end of November 2026. */
  const free = (
    amount: number,
    name: string,
    more: Partial<LoanTerms> = {},
    phases: Phase[] = [level(12)],
  ): PlanMember =>
    member(
      buildLoanSchedule(
        plainLoan(phases, {
          amount,
          annualRate: percent('0'),
          start: on,
          first: day('2026-11-30'),
          keepMonthEnd: true,
          ...more,
        }),
      ),
      name,
    );
  const [a, b] = [free(120_000, 'A'), free(240_000, 'B')];
  const paid = (outcome: BudgetOutcome, name: string): number[] =>
    outcome.members.find((each) => each.name === name)?.rows.map((row) => row.paid) ?? [];
  const times = (many: number, amount: number): number[] => Array.from({ length: many }, () => amount);
  const made = (members: readonly PlanMember[], monthly: number, use: BudgetUse): BudgetOutcome =>
    spent(members, on, monthly, use);

  // Worked by hand, without interest: A asks 100.00 a month and B 200.00, and the budget is 400.00.
  it('pays what is asked, and the rest to the one whose turn it is', () => {
    const first = made([a, b], 40_000, ['A', 'B']);
    expect([paid(first, 'A'), paid(first, 'B')]).toEqual([
      times(6, 20_000),
      [...times(6, 20_000), ...times(3, 40_000)],
    ]);
    const second = made([a, b], 40_000, ['B']);
    expect([paid(second, 'B'), paid(second, 'A')]).toEqual([times(8, 30_000), [...times(8, 10_000), 40_000]]);
    expect(first.months.map((month) => month.paid)).toEqual(times(9, 40_000));
    expect([formatDay(first.clears ?? 0), first.unspent, first.interest]).toEqual(['2027-07-31', 0, 0]);
    // In 450.00 A is repaid with 200.00 in its fifth month, and 50.00 go on to B in the same.
    const uneven = made([a, b], 45_000, ['A', 'B']);
    expect([paid(uneven, 'A'), paid(uneven, 'B')]).toEqual([
      [...times(4, 25_000), 20_000],
      [...times(4, 20_000), 25_000, ...times(3, 45_000)],
    ]);
  });

  it('turns to the smallest balance or the highest rate first, of two alike to the first told', () => {
    const turns = (members: readonly PlanMember[], use: BudgetUse): string | undefined =>
      made(members, 80_000, use).members.toSorted((one, other) => (one.clears ?? 0) - (other.clears ?? 0))[0]
        ?.name;
    expect(turns([b, a], 'smallest-balance')).toBe('A');
    const dear = free(240_000, 'Dear', { annualRate: percent('9') });
    const dearer = free(240_000, 'Dearer', {
      rateSteps: [{ from: on, annualRate: percent('12'), payment: 're-level' }],
    });
    const later = free(240_000, 'Later', {
      rateSteps: [{ from: on + 1, annualRate: percent('30'), payment: 'keep' }],
    });
    expect(turns([b, dear], 'highest-rate')).toBe('Dear');
    expect(turns([dear, dearer, later], 'highest-rate')).toBe('Dearer');
    // What is not to be repaid early has no turn.
    expect(turns([{ ...dear, prepay: false }, b, a], 'highest-rate')).toBe('B');
  });

  it('sets aside evenly what falls due later, and pays no turn from it', () => {
    // 100.00 a quarter is 33.33, 33.33 and 33.34 of a month.
    const q = free(40_000, 'Q', { every: 'quarter', first: day('2027-01-31') }, [level(4)]);
    expect(paid(made([a, q], 20_000, ['A', 'Q']), 'A').slice(0, 4)).toEqual([16_667, 16_667, 16_666, 16_667]);
    // A coupon of 50.00 a year in December: half of it in November, for the plan begins in it.
    const [outcome] = [made([a, bond], 20_000, ['A'])];
    expect(paid(outcome, 'A').slice(0, 3)).toEqual([17_500, 17_500, 20_000 - Math.floor(5_000 / 12)]);
    expect(outcome.months[1]?.paid).toBe(17_500 + 5_000);
  });

  it('for one common day is the earliest that it pays for, and leaves what that does not take', () => {
    const members = [a, b, bond, member(quarterly, 'Q')];
    const yearly = (clearBy: number): number =>
      planFor(members.slice(0, 2).concat(members[3] as PlanMember), on, clearBy, fund).reduce(
        (sum, each) => sum + (isPlanned(each) ? each.payment * paymentsPerYear[each.every] : Infinity),
        5_000,
      );
    const days = new Set(
      members.flatMap(({ schedule }: { schedule: Schedule }) =>
        byContract(schedule, on).rows.map((row) => row.on),
      ),
    );
    for (const monthly of [70_000, 90_000, 150_000]) {
      const outcome = made(members, monthly, 'same-day');
      const earliest =
        [...days].filter((each) => yearly(each) <= 12 * monthly).toSorted((x, y) => x - y)[0] ?? 0;
      expect(outcome.unspent).toBe(Math.floor(monthly - yearly(earliest) / 12));
      const raised = outcome.members.filter(({ name }) => name !== 'Bonds').map(({ clears }) => clears ?? 0);
      expect(Math.max(...raised)).toBeLessThanOrEqual(earliest);
    }
    // A coupon of 50.00 a year is 4.17 of a month.
    expect(made([bond], 60_000, 'same-day').unspent).toBe(59_583);
  });
});

describe('what payments of several days are worth', () => {
  it('is of the day that is asked for, and of each day the sum', () => {
    expect(presentValue([{ on: 730, amount: 1_100 }], 365, 0.1)).toBeCloseTo(1_000, 9);
    const none = (...amounts: [on: number, amount: number][]): number | undefined =>
      rateOfNoValue(
        amounts.map(([at, amount]) => ({ on: at, amount })),
        0,
      );
    expect(none([0, -400], [0, -600], [365, 1_100])).toBeCloseTo(0.1, 9);
    // Beyond doubling, below nothing, and nowhere.
    expect(none([0, -100], [365, 900])).toBeCloseTo(8, 9);
    expect(none([0, -1_000], [365, 900])).toBeCloseTo(-0.1, 9);
    expect(none([0, -1_000], [0, 1_000])).toBeUndefined();
    expect(none()).toBeUndefined();
  });

  it('is least of the horizons that all are cleared by, of two alike of the first', () => {
    const horizon = (
      clearBy: number,
      amount: number,
      without = 0,
    ): Parameters<typeof leastWorth>[0][number] => ({
      clearBy,
      years: clearBy,
      interest: 0,
      yearlyCash: 100 - clearBy,
      payments: [{ on: 0, amount }],
      without,
    });
    const least = (...of: Parameters<typeof leastWorth>[0][number][]): unknown => {
      const found = leastWorth(of, 0, 0.05);
      return found && [found.horizon.clearBy, found.presentValue];
    };
    expect(least(horizon(1, 9), horizon(2, 7), horizon(3, 7), horizon(4, 8))).toEqual([2, 7]);
    expect(least(horizon(1, 5, 1), horizon(2, 7))).toEqual([2, 7]);
    expect(least(horizon(1, 5, 1))).toBeUndefined();
    // Where the difference is nothing at a horizon itself, it is told once; where two steps are alike, nothing is.
    const step = (addedInterest: number): Parameters<typeof crossings>[1][number] => ({
      addedInterest,
      freedYearlyCash: 10,
      priceOfWaiting: undefined,
    });
    const curve = [1, 3, 5, 7].map((at) => horizon(at, 0));
    expect(crossings(curve, [undefined, step(5), step(10), step(15)], 12)).toEqual([
      { years: 5, yearlyCash: 95 },
    ]);
    expect(crossings(curve, [undefined, step(5), step(15), step(25)], 12)).toEqual([
      { years: 4, yearlyCash: 96 },
    ]);
    expect(crossings(curve, [undefined, step(5), step(6), undefined], 12)).toEqual([]);
  });
});
