import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arbitraryBondWithEvents } from '../testing/arbitrary-bond.ts';
import { bookedExpense } from '../bond/schedule/bond-schedule.ts';
import { buildBondSchedule } from '../bond/schedule/bond-walk.ts';
import { day, plainBond, priced } from '../testing/plain-bond.ts';
import { addMonths } from '../calendar/calendar-day.ts';
import { firstDay, lastDay } from '../instrument/instrument.ts';
import type { Schedule } from '../kinds/schedules.ts';
import { arbitraryLoanWithEvents } from '../testing/arbitrary-loan.ts';
import { buildLoanSchedule } from '../loan/schedule/build-loan-schedule.ts';
import { classificationOn } from '../position/classification.ts';
import type { LoanTerms } from '../loan/terms/loan-terms.ts';
import { ratio } from '../money/ratio.ts';
import { explainPosition } from '../explain/explain-position.ts';
import { interestExpense } from '../position/interest-expense.ts';
import { maturities } from '../position/maturities.ts';
import { position } from '../position/position.ts';
import { bookedInterest } from '../loan/interest/booked-interest.ts';
import { costsThrough } from '../loan/costs/issue-costs.ts';
import { sumColumn } from '../proofs/proof.ts';
import type { AccountRole } from './account-role.ts';
import { balancesOf } from './balances.ts';
import { entries } from './entries.ts';
import { accrualChoices } from './accruals.ts';
import { periodLengths } from './period-ends.ts';

const base: LoanTerms = {
  kind: 'loan',
  currency: 'EUR',
  digits: 2,
  amount: 10_000_000,
  start: day('2024-01-15'),
  annualRate: ratio(6n, 100n),
  rateSteps: [],
  compounding: 'each-payment',
  due: 'end',
  atEnd: 'pay',
  dayCount: 'even-periods',
  every: 'month',
  first: day('2024-02-15'),
  keepMonthEnd: false,
  phases: [{ type: 'level', count: 360, amortizeOver: 360 }],
  rounding: { interest: 'cent', payment: 'cent', ties: 'away-from-zero' },
  events: [],
};

const bond = buildBondSchedule(
  plainBond('5.5', {
    face: 300_000_000,
    issued: day('2024-04-01'),
    matures: day('2034-04-01'),
    price: priced('96.7500'),
    rounding: { interest: 'cent', ties: 'away-from-zero' },
  }),
);

const totalExpense = (schedule: Schedule): number =>
  schedule.kind !== 'bond'
    ? sumColumn(bookedInterest(schedule), schedule.length) +
      costsThrough(schedule, Number.MAX_SAFE_INTEGER) -
      (schedule.terms.takenOn?.accruedInterest ?? 0)
    : schedule.rows.reduce((sum, { booked }) => sum + bookedExpense(booked), 0);

/** A loan with events (owing nothing at the end) or a bond with redemptions. */
const anySchedule: fc.Arbitrary<Schedule> = fc.oneof(
  {
    weight: 4,
    arbitrary: arbitraryLoanWithEvents.map(buildLoanSchedule),
  },
  { weight: 3, arbitrary: arbitraryBondWithEvents.map(buildBondSchedule) },
);

const anyChoice = fc.constantFrom(...accrualChoices);

describe('position', () => {
  // Current portion: principal of the payments due in the twelve months after (IAS 1.69; ASC 470-10-45).
  // Balances and portions by exact integers, computed apart: 6 % monthly over 360, after 7 payments.
  it('has the current portion of a level loan', () => {
    const at = position(buildLoanSchedule(base), day('2024-08-15'));
    expect([at.outstanding, at.current, at.nonCurrent]).toEqual([9_929_261, 127_163, 9_802_098]);
  });

  // The same, computed apart: after 41 of 300, and in the last year, when all that is left is due.
  it.each([
    [250_000_00, 525, 'month', 300, 41, [23_188_415, 594_524, 22_593_891]],
    [1_000_000_00, 680, 'month', 120, 111, [10_069_814, 10_069_814, 0]],
    [500_000_00, 710, 'quarter', 40, 38, [3_421_526, 3_421_526, 0]],
    [25_000_00, 999, 'month', 60, 50, [507_547, 507_547, 0]],
  ] as const)(
    'of %d at %d basis points every %s over %d after %d',
    (amount, rate, every, count, paid, figures) => {
      const months = every === 'month' ? 1 : 3;
      const terms: LoanTerms = {
        ...base,
        amount,
        every,
        first: addMonths(base.start, months),
        annualRate: ratio(BigInt(rate), 10_000n),
        phases: [{ type: 'level', count, amortizeOver: count }],
      };
      const at = position(buildLoanSchedule(terms), addMonths(base.start, months * paid));
      expect([at.outstanding, at.current, at.nonCurrent]).toEqual(figures);
    },
  );

  // Accrued interest = principal × rate × day-count fraction; exact rationals, half up, computed apart.
  it.each([
    ['30/360', 1_000_000_00, 6250n, '2024-11-15', '2024-12-31', 798_611],
    ['ACT/360', 1_000_000_00, 6250n, '2024-11-15', '2024-12-31', 798_611],
    ['ACT/365F', 1_000_000_00, 6250n, '2024-11-15', '2024-12-31', 787_671],
    ['30/360', 500_000_00, 7100n, '2024-08-31', '2025-02-28', 1_755_278],
    ['30/360', 1_000_000_00, 6250n, '2023-11-15', '2024-02-29', 1_805_556],
    ['ACT/360', 1_000_000_00, 6250n, '2023-11-15', '2024-02-29', 1_840_278],
    ['ACT/365F', 1_000_000_00, 6250n, '2023-11-15', '2024-02-29', 1_815_068],
    ['30/360', 750_000_00, 6800n, '2024-12-31', '2025-01-31', 425_000],
    ['ACT/360', 750_000_00, 6800n, '2024-12-31', '2025-01-31', 439_167],
    ['30/360', 2_500_000_00, 5250n, '2023-12-01', '2023-12-31', 1_093_750],
    ['ACT/365F', 2_500_000_00, 5250n, '2023-12-01', '2023-12-31', 1_078_767],
    // Sample Closing Disclosure H-25(B) of Regulation Z: 17.44 a day on 162,000 at 3.875 %; from memory, reproduced.
    ['ACT/360', 162_000_00, 3875n, '2024-04-15', '2024-04-16', 1_744],
    ['ACT/360', 500_000_00, 7100n, '2024-08-31', '2025-02-28', 1_784_861],
    ['ACT/365F', 123_456_78, 4750n, '2024-02-29', '2024-03-31', 49_806],
    ['30/360', 123_456_78, 4750n, '2024-02-29', '2024-03-31', 52_126],
  ] as const)('accrues by %s on %d', (dayCount, amount, rate, from, to, accrued) => {
    const terms: LoanTerms = {
      ...base,
      amount,
      dayCount,
      annualRate: ratio(rate, 100_000n),
      start: day(from),
      first: addMonths(day(from), 12),
      every: 'year',
      phases: [{ type: 'interest-only', count: 2 }],
    };
    expect(position(buildLoanSchedule(terms), day(to)).accruedInterest).toBe(accrued);
  });

  // Common practice: last payment on the 15th, period end on the 31st: 16 of 31 days of the even month.
  it('accrues sixteen days from the 15th to the 31st', () => {
    const schedule = buildLoanSchedule(base);
    const at = position(schedule, day('2024-08-31'));
    expect(at.accruedInterest).toBe(Math.round((9_929_261 * 16) / 31 / 200));
    expect(explainPosition(schedule, at.on, 'accruedInterest').amount).toBe(at.accruedInterest);
  });

  it('leaves out planned extras from the current portion, and counts principal in arrears', () => {
    const on = day('2024-08-15');
    const planned = buildLoanSchedule({
      ...base,
      events: [{ type: 'extra-principal', on: on + 40, amount: 5_000_000, then: 'shorten' }],
    });
    expect(position(planned, on).current).toBe(127_163);
    const missed = buildLoanSchedule({ ...base, events: [{ type: 'paid', due: on, on, amount: 0 }] });
    const at = position(missed, on);
    expect(at.unpaidInterest).toBe(missed.interest[6]);
    expect(at.current).toBeGreaterThan(127_163);
  });

  // IAS 1.74: a breach makes all of it current; 1.76ZA and ASC 470-10-45-14: an agreement after it, non-current again.
  it('is what was stated for the day, from its first day to its last', () => {
    const stated = buildLoanSchedule({
      ...base,
      events: [
        {
          type: 'presentation',
          on: day('2025-06-30'),
          to: day('2025-09-29'),
          as: 'current',
          reason: 'Breach',
        },
        { type: 'presentation', on: day('2025-09-30'), as: 'non-current', reason: 'Refinanced' },
      ],
    });
    const at = (on: string): number => position(stated, day(on)).current;
    const plain = position(buildLoanSchedule(base), day('2025-06-29')).current;
    const { carrying } = position(stated, day('2025-09-29'));
    expect([at('2025-06-29'), at('2025-09-29'), at('2025-09-30')]).toEqual([plain, carrying, 0]);
    expect(maturities(stated, day('2025-09-29'))).toEqual([carrying, 0, 0, 0, 0, 0]);
    const how = explainPosition(stated, day('2025-09-29'), 'current');
    expect(how.steps[0]).toMatchObject({ text: 'Breach' });
  });

  it('is due, year by year, in the amount that is outstanding, and of a loan in the first year the current portion', () => {
    fc.assert(
      fc.property(anySchedule, fc.integer({ min: 0, max: 2000 }), (schedule, after) => {
        const on = day('2024-01-31') + after;
        const due = maturities(schedule, on);
        const at = position(schedule, on);
        expect(due.reduce((sum, amount) => sum + amount, 0)).toBe(at.outstanding);
        if (schedule.kind === 'bond') return;
        // What is presented as non-current for now falls due when it falls due.
        if (classificationOn(schedule.terms.events, on)?.as === 'non-current') expect(at.current).toBe(0);
        else expect(Math.min(due[0] as number, at.carrying)).toBe(at.current);
      }),
      { numRuns: 100 },
    );
  });

  // ASC 470-10-45; IAS 1.69(c): a bond is current once it matures within twelve months, at its carrying amount.
  it('makes a bond current in its last year', () => {
    expect(position(bond, day('2033-03-31'))).toMatchObject({ current: 0 });
    const at = position(bond, day('2033-04-01'));
    expect(at.current).toBe(at.carrying);
    expect(at.carrying + at.unamortizedDiscount).toBe(300_000_000);
    expect(position(bond, day('2034-04-01')).carrying).toBe(0);
  });
});

const settled = (schedule: Schedule): boolean =>
  position(schedule, lastDay(schedule)).carrying === 0 &&
  position(schedule, lastDay(schedule)).unpaidInterest === 0;

/** What is not a balance to be cleared. */
const kept: readonly AccountRole[] = [
  'interest-expense',
  'cash',
  'opening-balances',
  'fees',
  'asset',
  'redemption-gain-loss',
];

describe('over a whole life', () => {
  it('expense over any cut of periods sums to the total', () => {
    fc.assert(
      fc.property(
        anySchedule,
        fc.array(fc.integer({ min: 1, max: 900 }), { maxLength: 6 }),
        (schedule, steps) => {
          let at = firstDay(schedule) - 1;
          let sum = 0;
          for (const step of steps) {
            sum += interestExpense(schedule, at, at + step);
            at += step;
          }
          const end = Math.max(at, lastDay(schedule));
          fc.pre(settled(schedule));
          expect(sum + interestExpense(schedule, at, end)).toBe(totalExpense(schedule));
        },
      ),
      { numRuns: 200 },
    );
  });

  it('entries return every balance-sheet account but cash to zero, in periods of any length', () => {
    fc.assert(
      fc.property(
        anySchedule,
        fc.constantFrom(...periodLengths),
        anyChoice,
        (schedule, periods, accruals) => {
          fc.pre(settled(schedule));
          const to = addMonths(lastDay(schedule), 13);
          const balances = balancesOf(entries(schedule, firstDay(schedule), to, periods, accruals));
          const of = (account: AccountRole): number => balances.get(account) ?? 0;
          expect(of('interest-expense')).toBe(totalExpense(schedule));
          // What went out in cash is what was expensed, and for a loan taken on what it had been before.
          const lost = of('redemption-gain-loss') + of('asset');
          const expensed = of('interest-expense') + of('fees') + of('opening-balances') + lost;
          expect(of('cash')).toBe(0 - expensed - of('overpayment'));
          // What has not come back of an overpayment is all that stays.
          const overpaid = position(schedule, to).overpaid;
          for (const [account, balance] of balances) {
            if (!kept.includes(account)) {
              expect(balance, account).toBe(account === 'overpayment' ? overpaid : 0);
            }
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it('at every period end the accounts stand at the position', () => {
    fc.assert(
      fc.property(anySchedule, fc.integer({ min: 0, max: 40 }), anyChoice, (schedule, months, accruals) => {
        const end = addMonths(day('2024-01-31'), months, true);
        const found = balancesOf(entries(schedule, firstDay(schedule), end, 'month', accruals));
        const at = position(schedule, end);
        const of = (account: 'interest-payable' | 'current-portion'): number => 0 - (found.get(account) ?? 0);
        expect(of('interest-payable')).toBe(at.accruedInterest + at.unpaidInterest);
        expect(0 - (found.get('bonds-payable') ?? 0)).toBe(
          schedule.kind === 'bond' ? at.outstanding - at.current : 0,
        );
        expect(of('current-portion')).toBe(at.current);
      }),
      { numRuns: 100 },
    );
  });

  // Kieso, Intermediate Accounting, chapter 14: issue, coupon and accrual of a discount bond, by account.
  it('a bond sold at a discount is issued, paid and accrued as the textbook books it', () => {
    const lines = (from: string, to: string): unknown[] =>
      entries(bond, day(from), day(to), 'month').map((entry) => [
        entry.kind,
        ...entry.lines.map((line) => [line.account, line.debit - line.credit]),
      ]);
    expect(lines('2024-04-01', '2024-04-29')).toEqual([
      ['issue', ['cash', 290_250_000], ['bond-discount', 9_750_000], ['bonds-payable', -300_000_000]],
    ]);
    expect(lines('2024-10-01', '2024-10-30')[1]).toEqual([
      'coupon',
      ['interest-expense', 8_614_043],
      ['bond-discount', -364_043],
      ['cash', -8_250_000],
    ]);
    // Two of six months: a third of the coupon, a third of the period's amortization.
    expect(lines('2024-05-31', '2024-05-31')).toEqual([
      [
        'accrual',
        ['interest-expense', 2_750_000 + 121_348],
        ['bond-discount', -121_348],
        ['interest-payable', -2_750_000],
      ],
    ]);
  });
});
