import { describe, expect, it } from 'vitest';
import { formatDay } from '../../calendar/calendar-day.ts';
import { paid, settled } from '../../testing/loan-events.ts';
import { day, level, percent, plainLoan, thousand } from '../../testing/plain-loan.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import type { LoanSchedule } from '../schedule/loan-schedule.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import type { IssueCosts, LoanTerms, Phase } from '../terms/loan-terms.ts';
import {
  amortizedCosts,
  costAmortization,
  costPlansOf,
  costsThrough,
  unamortizedCosts,
} from './issue-costs.ts';

const times = (many: number, amount: number): number[] => Array.from({ length: many }, () => amount);
const withCosts = (
  issueCosts: IssueCosts | undefined,
  more: Partial<LoanTerms> = {},
  phases: readonly Phase[] = [level(12)],
): LoanSchedule => buildLoanSchedule(thousand(phases, { ...(issueCosts && { issueCosts }), ...more }));
const rows = (schedule: LoanSchedule): number[] => [...costAmortization(schedule).amortized];
const equal = (amount: number): IssueCosts => ({ amount, method: 'straight-line' });
const effective = (amount: number): IssueCosts => ({ amount, method: 'effective' });
const fee = (on: string, amount: number, treatment: 'defer' | 'expense' = 'defer'): LoanEvent => ({
  type: 'fee',
  on: day(on),
  amount,
  treatment,
});

describe('costs in equal parts', () => {
  // Straight-line (ASC 835-30-35-4 where it comes near the effective method): a part a payment, the last takes the rest.
  it('take a part with each payment, and by days within a period', () => {
    const schedule = withCosts(equal(3_000), { dayCount: 'ACT/360' });
    expect(rows(schedule)).toEqual(times(12, 250));
    const by = (on: string): number[] => [
      amortizedCosts(schedule, day(on)),
      unamortizedCosts(schedule, day(on)),
    ];
    expect(by('2024-12-31')).toEqual([0, 0]);
    expect(by('2025-01-01')).toEqual([0, 3_000]);
    // One day and fifteen of the 31 of January: 8.06 and 120.97.
    expect(by('2025-01-02')).toEqual([8, 2_992]);
    expect(by('2025-01-16')).toEqual([121, 2_879]);
    expect(by('2025-02-01')).toEqual([250, 2_750]);
    expect(by('2025-02-15')).toEqual([250 + 125, 2_625]);
    expect(by('2025-12-31')).toEqual([2_750 + 242, 8]);
    expect(by('2026-01-01')).toEqual([3_000, 0]);
    expect(rows(withCosts(equal(1_000), {}, [level(3)]))).toEqual([333, 333, 334]);
    expect(rows(withCosts(undefined))).toEqual([]);
    expect([
      costPlansOf(schedule),
      costPlansOf(withCosts(undefined)),
      costsThrough(withCosts(undefined), day('2025-05-05')),
    ]).toEqual([1, 0, 0]);
  });

  // What is left on the day of a fee is spread anew with it over what is still to come, from its day on.
  it('take a deferred fee with them from its day on', () => {
    const made = (...events: LoanEvent[]): LoanSchedule =>
      withCosts(equal(1_200), { dayCount: 'ACT/360', events });
    // On 1 June, after the fifth payment: 700 are left and 700 come to it, in seven payments.
    const onDue = made(fee('2025-06-01', 700));
    expect(rows(onDue)).toEqual([...times(5, 100), ...times(7, 200)]);
    expect([costsThrough(onDue, day('2025-05-31')), costsThrough(onDue, day('2025-06-01'))]).toEqual([
      1_200, 1_900,
    ]);
    // On 16 May 15 of 31 days have taken 48; 752 and 700 go over 16 of 31 days and seven payments: 102 and 192.
    const within = made(fee('2025-05-16', 700));
    const each = 1_452 / (16 / 31 + 7);
    expect(rows(within).slice(0, 11)).toEqual([
      ...times(4, 100),
      48 + Math.round((each * 16) / 31),
      ...times(6, Math.round(each)),
    ]);
    expect(rows(within).reduce((sum, amount) => sum + amount, 0)).toBe(1_900);
    expect(amortizedCosts(within, day('2025-05-16'))).toBe(448);
    expect(rows(made(fee('2025-06-01', 700, 'expense')))).toEqual(times(12, 100));
    expect(costPlansOf(withCosts(undefined, { events: [fee('2025-06-01', 700)] }))).toBe(2);
    expect(costPlansOf(withCosts(undefined, { events: [fee('2025-06-01', 700, 'expense')] }))).toBe(0);
  });

  // The last day takes what is left, be it a due date or not.
  it('are all amortized on the day that the loan is settled on', () => {
    const made = withCosts(equal(1_200), { dayCount: 'ACT/360', events: [settled('2025-06-16')] });
    expect(rows(made)).toEqual([...times(5, 100), 700]);
    // Until then nobody knows: 14 of the 30 days of June's payment.
    expect(amortizedCosts(made, day('2025-06-15'))).toBe(500 + 47);
    expect(unamortizedCosts(made, day('2025-06-16'))).toBe(0);
    expect(amortizedCosts(made, day('2025-12-01'))).toBe(1_200);
  });

  // A day count by periods gives a month its twelfth of the year, however many days it has.
  it('take by days the part of a period that the day count gives, in leap years too', () => {
    const costs: Partial<LoanTerms> = { start: day('2023-12-01'), first: day('2024-02-01') };
    const made = withCosts(equal(6_200), { ...costs, dayCount: 'ACT/ACT-ISDA' }, [level(2)]);
    // 31 of 365 days and 31 of 366, to the second of February: what had passed by 1 January is more than a half.
    const [december, january] = [31 / 365, 31 / 366];
    const firstShare = Math.round((3_100 * december) / (december + january));
    expect(amortizedCosts(made, day('2024-01-01'))).toBe(firstShare);
    expect(firstShare).toBe(1_552);
    expect(rows(made)).toEqual([3_100, 3_100]);
  });

  it('take the days of a month of thirty where a day count gives a stretch none', () => {
    const schedule = withCosts(
      equal(100),
      { dayCount: '30/360', start: day('2025-01-30'), first: day('2025-01-31'), keepMonthEnd: true },
      [level(2)],
    );
    expect(rows(schedule)).toEqual([50, 50]);
    expect(amortizedCosts(schedule, day('2025-01-30'))).toBe(0);
  });
});

describe('costs of a credit line', () => {
  // Common practice: the right to draw is had every day alike.
  it('take each day alike, whatever bills there are', () => {
    const line = buildLoanSchedule(
      plainLoan([{ type: 'interest-only', count: 4 }], {
        amount: 0,
        every: 'quarter',
        start: day('2025-01-01'),
        first: day('2025-04-01'),
        dayCount: 'ACT/360',
        creditLine: { limit: 100_000, unusedFee: percent('0') },
        issueCosts: equal(3_650),
        events: [{ type: 'draw', on: day('2025-02-01'), amount: 50_000, then: 'keep' }],
      }),
    );
    const by = (on: string): number => amortizedCosts(line, day(on));
    expect(
      ['2025-01-02', '2025-02-01', '2025-02-02', '2025-04-01', '2025-12-31', '2026-01-01'].map(by),
    ).toEqual([10, 310, 320, 900, 3_640, 3_650]);
    expect(rows(line).filter((amount) => amount !== 0)).toEqual([900, 910, 920, 920]);
  });
});

describe('costs at the effective rate', () => {
  /** Found again by halving: the monthly rate at which the payments are worth what is carried, and what it makes of it. */
  function spread(
    carried: number,
    payments: readonly number[],
    interest: readonly number[],
  ): [number, number[]] {
    let [low, high] = [0, 1];
    const worth = (rate: number): number =>
      payments.reduce((sum, paid, at) => sum + paid / (1 + rate) ** (at + 1), 0);
    for (let step = 0; step < 100; step += 1) {
      const middle = (low + high) / 2;
      if (worth(middle) > carried) low = middle;
      else high = middle;
    }
    let value = carried;
    const amounts = payments.map((paid, at) => {
      const expense = value * low;
      value += expense - paid;
      return expense - (interest[at] ?? 0);
    });
    return [low, amounts];
  }
  const held = (schedule: LoanSchedule, carried: number, owedAtEnd = 0, accrued = 0): void => {
    const length = schedule.length;
    const payments = [...schedule.payment.slice(0, length)];
    payments[length - 1] = (payments[length - 1] ?? 0) + owedAtEnd;
    const interest = [...schedule.interest.slice(0, length)];
    // What had accrued before is in what is carried already.
    interest[0] = (interest[0] ?? 0) - accrued;
    const [monthly, amounts] = spread(carried, payments, interest);
    rows(schedule)
      .slice(0, -1)
      .forEach((amount, at) =>
        expect(Math.abs(amount - (amounts[at] ?? 0)), `row ${at}`).toBeLessThanOrEqual(0.51),
      );
    const [rate] = costAmortization(schedule).effectiveRates;
    expect([rate?.from, rate?.overAgreed]).toEqual([schedule.terms.start, false]);
    expect(Number(rate?.rate)).toBeCloseTo((1 + monthly) ** 12 - 1, 9);
  };

  // IFRS 9 Appendix A: the rate that discounts the payments to what is carried, costs taken off it.
  it('are what the rate makes of what is carried, less the interest agreed', () => {
    held(withCosts(effective(3_000)), 97_000);
    held(
      withCosts(effective(3_000), { atEnd: 'leave' }, [level(12, 24)]),
      97_000,
      withCosts(effective(1), { atEnd: 'leave' }, [level(12, 24)]).closing[11],
    );
    held(withCosts(effective(3_000), { takenOn: { accruedInterest: 400 } }), 97_400, 0, 400);
    held(withCosts(effective(3_000), {}, [{ type: 'equal-principal', count: 6 }]), 97_000);
  });

  it('are found so with regular extra principal, without rounding, and from the day of a late fee on', () => {
    /** By the payments still to come from a row on; where nothing is rounded they are shown to the cent. */
    const fromRow = (schedule: LoanSchedule, row: number, carried: number): void => {
      const { length } = schedule;
      const [payment, extra, interest] = [schedule.payment, schedule.extra, schedule.interest].map(
        (column) => [...column.slice(row, length)],
      ) as [number[], number[], number[]];
      const [, amounts] = spread(
        carried,
        payment.map((paid, at) => paid + (extra[at] ?? 0)),
        interest,
      );
      rows(schedule)
        .slice(row, -1)
        .forEach((amount, at) =>
          expect(Math.abs(amount - (amounts[at] ?? 0)), `row ${at}`).toBeLessThanOrEqual(1.6),
        );
    };
    const each: LoanEvent = {
      type: 'extra-each-payment',
      from: day('2025-01-01'),
      to: day('2026-01-01'),
      amount: 500,
      then: 'shorten',
    };
    fromRow(withCosts(effective(3_000), { events: [each] }), 0, 97_000);
    const unrounded = { interest: 'none', payment: 'none', ties: 'away-from-zero' } as const;
    fromRow(withCosts(effective(3_000), { rounding: unrounded }), 0, 97_000);
    for (const more of [{}, { takenOn: { accruedInterest: 400 } }, { rounding: unrounded }]) {
      const late = withCosts(undefined, { events: [fee('2025-04-01', 700)], ...more });
      fromRow(late, 3, (late.closing[2] ?? 0) - 700);
      expect(rows(late).slice(0, 3)).toEqual([0, 0, 0]);
    }
    // Interest that fell due and was not paid is owed with the balance.
    const behind = withCosts(undefined, {
      events: [
        fee('2025-04-01', 700),
        { type: 'paid', due: day('2025-04-01'), on: day('2025-04-01'), amount: 0 },
      ],
    });
    expect(behind.unpaid[2]).toBeGreaterThan(0);
    expect(rows(behind).reduce((sum, amount) => sum + amount, 0)).toBe(700);
    const [rate] = costAmortization(behind).effectiveRates;
    const [plain] = costAmortization(
      withCosts(undefined, { events: [fee('2025-04-01', 700)] }),
    ).effectiveRates;
    expect(Math.abs(Number(rate?.rate) - Number(plain?.rate))).toBeLessThan(0.01);
  });

  it('go in equal parts where they are more than is owed', () => {
    const late = withCosts(undefined, { events: [fee('2025-11-01', 50_000)] });
    expect(rows(late)).toEqual([...times(10, 0), 25_000, 25_000]);
    expect(costAmortization(late).effectiveRates).toEqual([]);
  });

  // IFRS 9 B5.4.5: interest that is known to move stays what is agreed; only the costs are spread, at a rate on top of it.
  it('come on top of a rate that is known to change', () => {
    const stepped = withCosts(effective(3_000), {
      rateSteps: [{ from: day('2025-07-01'), annualRate: percent('18'), payment: 're-level' }],
    });
    const [rate] = costAmortization(stepped).effectiveRates;
    expect(rate?.overAgreed).toBe(true);
    // Found again by halving: a month grows by what is agreed, 1 % and from July 1.5 %, and by the rate sought over it.
    const agreed = (at: number): number => (at < 6 ? 1.01 : 1.015);
    const left = (yearly: number): number[] =>
      [...stepped.payment.slice(0, 12)].reduce(
        (values, paid, at) => [
          ...values,
          (values.at(-1) ?? 0) * agreed(at) * (1 + yearly) ** (1 / 12) - paid,
        ],
        [97_000],
      );
    let [low, high] = [0, 1];
    for (let step = 0; step < 60; step += 1) {
      const middle = (low + high) / 2;
      if ((left(middle).at(-1) ?? 0) < 0) low = middle;
      else high = middle;
    }
    expect(Number(rate?.rate)).toBeCloseTo(low, 10);
    const carried = left(low);
    for (const [at, amount] of rows(stepped).slice(0, -1).entries()) {
      const grown = (carried[at] ?? 0) * (agreed(at) * (1 + low) ** (1 / 12) - 1);
      expect(Math.abs(amount - (grown - (stepped.interest[at] ?? 0))), `row ${at}`).toBeLessThanOrEqual(0.51);
    }
    // From the day of the step on nothing is known to change, and a step on the first day is the rate of all.
    const fromStart = withCosts(effective(3_000), {
      rateSteps: [{ from: day('2025-01-01'), annualRate: percent('18'), payment: 're-level' }],
    });
    expect(costAmortization(fromStart).effectiveRates.map(({ overAgreed }) => overAgreed)).toEqual([false]);
  });

  it('follow what is known: another rate from the day that extra principal changes what is to come', () => {
    const extra: LoanEvent = {
      type: 'extra-principal',
      on: day('2025-04-01'),
      amount: 20_000,
      then: 'shorten',
    };
    const schedule = withCosts(effective(3_000), { events: [extra] });
    const plain = withCosts(effective(3_000));
    const { effectiveRates } = costAmortization(schedule);
    expect(effectiveRates.map(({ from }) => from)).toEqual([day('2025-01-01'), day('2025-04-01')]);
    expect(rows(schedule).slice(0, 3)).toEqual(rows(plain).slice(0, 3));
    expect(rows(schedule).reduce((sum, amount) => sum + amount, 0)).toBe(3_000);
    expect(costPlansOf(schedule)).toBe(2);
  });

  // What is to come is another where something due is still owed by the next payment, where it is paid at last, and where
  // more is paid than was asked for; a few days late in between changes nothing.
  it('are spread anew where what was paid changes what is to come, and only there', () => {
    const from = (...events: LoanEvent[]): string[] =>
      costAmortization(withCosts(effective(3_000), { events })).effectiveRates.map((rate) =>
        formatDay(rate.from),
      );
    const level12 = 8_885;
    expect(from()).toEqual(['2025-01-01']);
    expect(from(paid('2025-03-01', '2025-03-04', level12))).toEqual(['2025-01-01']);
    expect(from(paid('2025-03-01', '2025-03-01', level12))).toEqual(['2025-01-01']);
    expect(from(paid('2025-03-01', '2025-03-01', level12 + 500))).toEqual(['2025-01-01', '2025-03-01']);
    // Owed still on 1 April, and paid on the 10th.
    expect(from(paid('2025-03-01', '2025-04-10', level12))).toEqual([
      '2025-01-01',
      '2025-04-01',
      '2025-04-10',
    ]);
    // Missed, it is new on 1 April; that it stays so is not.
    expect(from(paid('2025-03-01', '2025-03-01', 0))).toEqual(['2025-01-01', '2025-04-01']);
    // What is agreed otherwise and comes to the same is nothing new, nor is what moves no payment.
    expect(from({ type: 'payment-change', on: day('2025-04-01'), payment: level12 })).toEqual(['2025-01-01']);
    expect(from({ type: 'payment-change', on: day('2025-04-01'), payment: level12 + 100 })).toEqual([
      '2025-01-01',
      '2025-04-01',
    ]);
    expect(from({ type: 'presentation', on: day('2025-04-01'), as: 'current', reason: 'Any' })).toEqual([
      '2025-01-01',
    ]);
    const each: LoanEvent = {
      type: 'extra-each-payment',
      from: day('2025-04-01'),
      to: day('2025-06-01'),
      amount: 100,
      then: 'shorten',
    };
    expect(from(each)).toEqual(['2025-01-01', '2025-04-01']);
    // Where it begins between due dates, the first payment to change is the one after it.
    expect(from({ ...each, from: day('2025-04-02') })).toEqual(['2025-01-01', '2025-04-02']);
    const plans = (...events: LoanEvent[]): number => costPlansOf(withCosts(effective(3_000), { events }));
    expect([
      plans(paid('2025-03-01', '2025-03-04', level12)),
      plans(paid('2025-03-01', '2025-04-10', level12)),
    ]).toEqual([1, 3]);
    // On the first day and the last there is nothing before or after to spread anew.
    expect([
      plans(fee('2025-01-01', 10)),
      plans(fee('2025-12-31', 10)),
      plans(fee('2026-01-01', 10)),
    ]).toEqual([1, 2, 1]);
  });
});
