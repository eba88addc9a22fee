import fc from 'fast-check';
import { BeyondExact } from '../faults/beyond-exact.ts';
import { describe, expect, it } from 'vitest';
import { buildSchedule } from '../instrument/instrument.ts';
import { contractAfter, duesBy } from '../loan/plan/contract.ts';
import { raised } from '../loan/plan/least-level.ts';
import { paidSchedule } from '../loan/plan/paid-schedule.ts';
import { levelBy, planLoan, rowsAfter, type PlannedLoan } from '../loan/plan/plan-loan.ts';
import { followPayments, regularContract } from '../loan/plan/regular-contract.ts';
import { buildLoanSchedule } from '../loan/schedule/build-loan-schedule.ts';
import type { LoanSchedule } from '../loan/schedule/loan-schedule.ts';
import { arbitraryLoan, arbitraryLoanWithEvents } from '../testing/arbitrary-loan.ts';
import { plainBond, priced } from '../testing/plain-bond.ts';
import { ratio } from '../money/ratio.ts';
import type { Ties } from '../money/round-ratio.ts';
import type { LoanTerms } from '../loan/terms/loan-terms.ts';
import { day, level, percent, plainLoan } from '../testing/plain-loan.ts';
import { members, monthly, three } from '../testing/plain-plan.ts';
import { frontier, stepFrom, type Horizon, type Step } from './frontier.ts';
import { planProofs, planTotals, planYears } from './plan-totals.ts';
import { byContract, isPlanned, planFor } from './plan.ts';
import { crossings, leastWorth } from './worth-it.ts';

const planned = (schedule: LoanSchedule, on: string, clearBy: string, least = 0): PlannedLoan => {
  const made = planLoan(contractAfter(schedule, day(on)), day(clearBy), least);
  if ('earliest' in made) throw new Error('Out of reach');
  return made;
};
const cleared = (...asked: Parameters<typeof paidSchedule>): LoanSchedule => {
  const made = paidSchedule(...asked);
  if (!made) throw new Error('Refused');
  return made;
};
const unlessOutgrown = (cleared: () => boolean): boolean => {
  try {
    return cleared();
  } catch (error) {
    if (error instanceof BeyondExact) return false;
    throw error;
  }
};
const noFund = { annualRate: percent('0'), every: 'month' } as const;

describe('a loan cleared by a day', () => {
  // A worked plan: three loans of 120 level monthly payments from 2026-01-15, after 2026-10-31, by 2030-12-31.
  it.each([
    [0, 531_554, 12_512, 12_469, 94_003],
    [1, 804_285, 18_518, 18_473, 121_570],
    [2, 214_943, 4_567, 4_549, 13_389],
  ])('is paid as worked by hand: loan %i', (at, balance, payment, finalPayment, interest) => {
    const made = planned(three[at] as LoanSchedule, '2026-10-31', '2030-12-31');
    expect(made).toMatchObject({ balance, payment, finalPayment, interest, payments: 50, bound: 'plan' });
    expect(made.clears).toBe(day('2030-12-15'));
  });

  // Annuity tables: the payment that repays 1 over n periods at i is i / (1 − (1 + i)^−n).
  it.each([12, 24, 60, 100])(
    'is paid what annuity tables have for %i payments, to the minor unit',
    (many) => {
      const schedule = monthly(10_000_000, '6');
      const { dues, balance } = contractAfter(schedule, day('2026-01-31'));
      const made = planLoan(contractAfter(schedule, day('2026-01-31')), dues[many - 1]?.on ?? 0, 0);
      const exact = (balance * 0.005) / (1 - 1.005 ** -many);
      expect(Math.abs((made as PlannedLoan).payment - exact)).toBeLessThan(1.01);
      expect((made as PlannedLoan).payments).toBe(many);
    },
  );

  it('is paid a stated least where that clears it, and its contract where nothing more is needed', () => {
    const [loan] = three as [LoanSchedule];
    expect(planned(loan, '2026-10-31', '2036-01-31')).toMatchObject({ bound: 'contract', payments: 111 });
    // Common practice: a lender's least of 95.77 stands where the plan needs less.
    const least = planned(loan, '2026-10-31', '2036-01-31', 9577);
    expect(least).toMatchObject({ bound: 'least', payment: 9577 });
    expect(least.clears).toBeLessThan(day('2035-12-31'));
    expect(planned(loan, '2026-10-31', '2030-12-31', 9577)).toMatchObject({ bound: 'plan', payment: 12_512 });
  });

  it('is found also where a payment too small lets the rest of a long life outgrow exact amounts', () => {
    const terms = plainLoan(
      [{ type: 'no-payment', count: 6, interest: 'kept-apart', then: 'pay' }, level(114)],
      {
        amount: 100_000,
        annualRate: percent('28.83'),
        compounding: 'daily',
        every: 'year',
        start: day('2024-01-31'),
        first: day('2024-01-31'),
        due: 'start',
        rounding: { interest: 'unit', payment: 'cent', ties: 'away-from-zero' },
      },
    );
    const contract = contractAfter(buildLoanSchedule(terms), day('2025-01-31'));
    const made = planLoan(contract, day('2029-01-31'), 0);
    expect(made).toMatchObject({ bound: 'plan', payments: 4, clears: day('2029-01-31') });
  });

  it('is out of reach before its first due date, and says when it could be', () => {
    const contract = contractAfter(three[0] as LoanSchedule, day('2026-10-31'));
    expect(planLoan(contract, day('2026-11-14'), 0)).toEqual({ earliest: day('2026-11-15') });
    expect(planLoan(contract, day('2026-11-15'), 0)).toMatchObject({ payments: 1 });
  });

  it('leaves out what was only meant to be paid beyond the contract', () => {
    const terms = plainLoan([level(24)], { start: day('2026-01-15'), first: day('2026-02-15') });
    const extra = {
      type: 'extra-principal',
      on: day('2026-12-01'),
      amount: 50_000,
      then: 'shorten',
    } as const;
    const each = {
      type: 'extra-each-payment',
      from: terms.start,
      to: day('2030-01-01'),
      amount: 1_000,
      then: 'shorten',
    } as const;
    const on = day('2026-10-31');
    const without = contractAfter(buildLoanSchedule(terms), on);
    expect(contractAfter(buildLoanSchedule({ ...terms, events: [extra] }), on).dues).toEqual(without.dues);
    const partly = contractAfter(buildLoanSchedule({ ...terms, events: [each] }), on);
    expect(partly.balance).toBeLessThan(without.balance);
    expect(partly.dues[0]?.amount).toBe(without.dues[0]?.amount);
  });

  const anyCase = fc.record({
    terms: fc.oneof(arbitraryLoan, arbitraryLoanWithEvents).filter(({ creditLine }) => !creditLine),
    after: fc.integer({ min: 0, max: 900 }),
    within: fc.integer({ min: 1, max: 1500 }),
    least: fc.constantFrom(0, 0, 1_000, 50_000),
  });

  /** Most loans drawn at random are not regular; most of these are. */
  const mostlyRegular = fc.record({
    terms: fc.oneof(
      anyCase.map(({ terms }) => terms),
      fc
        .record({
          amount: fc.integer({ min: 10_000, max: 10 ** 9 }),
          annualRate: fc.integer({ min: 0, max: 2400 }).map((at) => ratio(BigInt(at), 10_000n)),
          dayCount: fc.constantFrom('even-periods', 'ACT/365F', 'ACT/360', '30/360'),
          every: fc.constantFrom('month', 'quarter'),
          count: fc.integer({ min: 2, max: 60 }),
          ties: fc.constantFrom<Ties>('away-from-zero', 'even'),
          interest: fc.constantFrom<LoanTerms['rounding']['interest']>('cent', 'unit'),
        })
        .map(({ count, ties, interest, ...more }) =>
          plainLoan([level(count)], { ...more, rounding: { interest, payment: 'cent', ties } }),
        ),
    ),
    after: fc.integer({ min: 0, max: 900 }),
    within: fc.integer({ min: 1, max: 1500 }),
    least: fc.constantFrom(0, 0, 1_000, 50_000),
  });

  it('is cleared on or before the day, and one minor unit less does not clear it', () => {
    fc.assert(
      fc.property(anyCase, ({ terms, after, within, least }) => {
        const contract = contractAfter(buildLoanSchedule(terms), terms.start + after);
        const clearBy = contract.on + within;
        // A document that records payments of days on which nothing falls due is refused.
        if (contract.balance + contract.unpaid === 0 || contract.schedule.receipts.unmatched.length > 0)
          return;
        const made = planLoan(contract, clearBy, least);
        if ('earliest' in made) {
          expect(made.earliest === undefined || made.earliest > clearBy).toBe(true);
          return;
        }
        const owed = made.rows.at(-1);
        expect([owed?.closing, made.clears <= clearBy]).toEqual([0, true]);
        expect(
          made.paid - made.balance - made.unpaid - made.rows.reduce((sum, { drawn }) => sum + drawn, 0),
        ).toBe(made.interest);
        if (made.bound !== 'plan') return;
        const through = duesBy(contract, clearBy);
        const first = contract.dues[0]?.amount ?? 0;
        if (made.payment <= Math.max(least, first)) return;
        const still = (): boolean => {
          const less = cleared(contract, raised(contract, Math.max(made.payment - 1, least), through));
          const owes = (row: number): boolean =>
            Number(less.exact?.closing[row] ?? less.closing[row]) +
              Number(less.exact?.unpaid[row] ?? less.unpaid[row]) !==
            0;
          const by = [...less.date.subarray(0, less.length)].findLastIndex((on) => on <= clearBy);
          return by >= 0 && ![...less.date.keys()].slice(by, less.length).some(owes);
        };
        // What is left may outgrow what can be kept in the years after.
        expect(unlessOutgrown(still)).toBe(false);
      }),
    );
  });

  it('is planned the same by what follows a contract and by schedules of its own rules', () => {
    let followed = 0;
    fc.assert(
      fc.property(mostlyRegular, ({ terms, after, within, least }) => {
        const contract = contractAfter(buildLoanSchedule(terms), terms.start + after);
        const regular = regularContract(contract);
        if (!regular || contract.dues.length === 0) return;
        followed += 1;
        const clearBy = contract.on + within;
        const found = levelBy(contract, regular, clearBy, least);
        expect(found).toEqual(levelBy(contract, undefined, clearBy, least));
        if ('earliest' in found) return;
        const amount = Math.max(found.level, least);
        const schedule = cleared(contract, raised(contract, amount, found.through));
        const rows = rowsAfter(schedule, contract.on).filter(({ paid }) => paid > 0);
        const { payments, interest, paid } = followPayments(regular, amount, found.through);
        expect(payments).toEqual(rows.map((row) => ({ on: row.on, amount: row.paid })));
        expect([interest, paid]).toEqual([
          rows.reduce((sum, row) => sum + row.interest, 0),
          rows.reduce((sum, row) => sum + row.paid, 0),
        ]);
      }),
      { numRuns: 300 },
    );
    expect(followed).toBeGreaterThan(5);
  });
});

describe('several loans', () => {
  const on = day('2026-10-31');

  it('cross-foot: loans, years, and what was owed', () => {
    const made = planFor(members, on, day('2030-12-31'), noFund).filter(isPlanned);
    const years = made.map((each) => planYears(each, on, day('2030-12-31'), 12));
    const totals = planTotals(made, years);
    expect(planProofs(made, totals).map(({ holds }) => holds)).toEqual([true, true]);
    expect(totals).toMatchObject({ balance: 1_550_782, interest: 228_962, paid: 1_779_744 });
    expect(totals.years.map(({ year }) => year)).toEqual([2026, 2027, 2028, 2029, 2030]);
    expect(totals.years.at(-1)?.closing).toBe(0);
    // A fiscal year to June is called by the year that it ends in.
    expect(planYears(made[0] as PlannedLoan, on, day('2030-12-31'), 6).map(({ year }) => year)).toEqual([
      2027, 2028, 2029, 2030, 2031,
    ]);
  });

  it('provide by a fund for what may not be repaid early: level deposits that hold what is owed then', () => {
    const schedule = buildSchedule(
      plainBond('5', {
        issued: day('2024-12-31'),
        dated: day('2024-12-31'),
        matures: day('2034-12-31'),
        face: 10_000_000,
        price: priced('100'),
      }),
    );
    const bond = { name: 'Bonds', schedule, least: 0, prepay: false };
    const [made] = planFor([bond], on, day('2030-12-31'), { annualRate: percent('2.4'), every: 'month' });
    if (!made || !isPlanned(made)) throw new Error('not planned');
    // Sinking-fund tables: 0.002 / (1.002^50 − 1) of the face each month for 50 months.
    const factor = 0.002 / (1.002 ** 50 - 1);
    expect(Math.abs((made.fund?.deposit ?? 0) - 10_000_000 * factor)).toBeLessThan(1);
    expect([made.bound, made.fund?.rows.length, made.fund?.rows.at(-1)?.closing]).toEqual([
      'fund',
      50,
      10_000_000,
    ]);
    expect(made.fund?.rows.at(-1)?.due).toBe(day('2030-12-31'));
    // Its own coupons go on to its own end.
    expect(made.interest).toBe(byContract(schedule, on).interest);
  });

  const horizons = [...frontier(members, on, { every: 'year', count: 9 }, noFund)];
  const steps = horizons.map((horizon, at) => stepFrom(horizons[at - 1], horizon, on));

  it('cost more and ask less the later they are cleared, as each horizon planned by itself', () => {
    horizons.forEach((horizon, at) => {
      const alone = planFor(members, on, horizon.clearBy, noFund).filter(isPlanned);
      expect(alone.reduce((sum, { interest }) => sum + interest, 0)).toBe(horizon.interest);
      expect(alone.reduce((sum, { payment }) => sum + 12 * payment, 0)).toBe(horizon.yearlyCash);
      const before = horizons[at - 1];
      if (!before) return;
      expect(horizon.interest).toBeGreaterThan(before.interest);
      expect(horizon.yearlyCash).toBeLessThan(before.yearlyCash);
    });
  });

  it('have a price of waiting between the rates of what is paid later', () => {
    expect(steps[0]).toBeUndefined();
    for (const step of steps.slice(1)) {
      // Effective yearly rates of 2.875 % and 7.9 % compounded monthly are 2.91 % and 8.19 %.
      expect(step?.priceOfWaiting).toBeGreaterThan(0.0291);
      expect(step?.priceOfWaiting).toBeLessThan(0.0819);
    }
  });

  it('are worth least at a rate above all of theirs when cleared last, and below all of them when cleared first', () => {
    expect(leastWorth(horizons, on, 0.2)?.horizon.clearBy).toBe(horizons.at(-1)?.clearBy);
    expect(leastWorth(horizons, on, 0)?.horizon.clearBy).toBe(horizons[0]?.clearBy);
  });

  it('cross where what a step adds is what it frees, between the two by their share', () => {
    const at = (years: number, yearlyCash: number): Horizon => ({
      clearBy: 0,
      years,
      interest: 0,
      yearlyCash,
      payments: [],
      without: 0,
    });
    const step = (addedInterest: number, freedYearlyCash: number): Step => ({
      addedInterest,
      freedYearlyCash,
      priceOfWaiting: undefined,
    });
    const curve = [at(1, 5_000), at(2, 3_000), at(3, 2_000), at(4, 1_800)];
    // At two years 100 is added and 300 freed, at three 200 and 150: the difference runs from −200 to 50.
    const found = crossings(curve, [undefined, step(100, 300), step(200, 150), step(300, 350)], 12);
    expect(found.map(({ years }) => years)).toEqual([2.8, 3.5]);
    expect(found[0]?.yearlyCash).toBeCloseTo(3_000 - 0.8 * 1_000, 6);
    // A month's freed cash is a twelfth of it.
    expect(crossings(curve, [undefined, step(20, 300), step(25, 240), step(30, 240)], 1)[0]?.years).toBe(2.5);
  });
});
