import { describe, expect, it } from 'vitest';
import { formatDay } from '../../calendar/calendar-day.ts';
import { amortizedRows, effective, fee, times, withCosts } from '../../testing/loan-costs.ts';
import { extra as repaid, paid } from '../../testing/loan-events.ts';
import { day, level, percent } from '../../testing/plain-loan.ts';
import type { LoanSchedule } from '../schedule/loan-schedule.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import { costAmortization, costPlansOf } from './issue-costs.ts';

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
    amortizedRows(schedule)
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
      amortizedRows(schedule)
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
      expect(amortizedRows(late).slice(0, 3)).toEqual([0, 0, 0]);
    }
    // On a day within the first period: what is owed, interest of nine days before 10,000 were repaid and ten after, and
    // what had accrued before; the first payment is twelve of January's 31 days ahead.
    const within = withCosts(undefined, {
      takenOn: { accruedInterest: 400 },
      events: [repaid('2025-01-10', 10_000), fee('2025-01-20', 700)],
    });
    const ahead = [...within.payment.slice(1, within.length)];
    const carried = 90_000 + (100_000 * 9 + 90_000 * 10) / 3_100 + 400 - 700;
    const discounted = (yearly: number): number =>
      ahead.reduce((sum, paid, at) => sum + paid / (1 + yearly) ** ((12 / 31 + at) / 12), 0);
    const [found] = costAmortization(within).effectiveRates;
    expect(found?.from).toBe(day('2025-01-20'));
    expect(discounted(Number(found?.rate))).toBeCloseTo(carried, 4);
    // Interest that fell due and was not paid is owed with the balance.
    const behind = withCosts(undefined, {
      events: [
        fee('2025-04-01', 700),
        { type: 'paid', due: day('2025-04-01'), on: day('2025-04-01'), amount: 0 },
      ],
    });
    expect(behind.unpaid[2]).toBeGreaterThan(0);
    expect(amortizedRows(behind).reduce((sum, amount) => sum + amount, 0)).toBe(700);
    const [rate] = costAmortization(behind).effectiveRates;
    const [plain] = costAmortization(
      withCosts(undefined, { events: [fee('2025-04-01', 700)] }),
    ).effectiveRates;
    expect(Math.abs(Number(rate?.rate) - Number(plain?.rate))).toBeLessThan(0.01);
  });

  it('go in equal parts where they are more than is owed', () => {
    const late = withCosts(undefined, { events: [fee('2025-11-01', 50_000)] });
    expect(amortizedRows(late)).toEqual([...times(10, 0), 25_000, 25_000]);
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
    const rounding = { interest: 'none', payment: 'none', ties: 'away-from-zero' } as const;
    const [unrounded] = costAmortization(
      withCosts(effective(3_000), { rateSteps: stepped.terms.rateSteps, rounding }),
    ).effectiveRates;
    expect(Number(unrounded?.rate)).toBeCloseTo(low, 4);
    for (const [at, amount] of amortizedRows(stepped).slice(0, -1).entries()) {
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
    expect(amortizedRows(schedule).slice(0, 3)).toEqual(amortizedRows(plain).slice(0, 3));
    expect(amortizedRows(schedule).reduce((sum, amount) => sum + amount, 0)).toBe(3_000);
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
