import { describe, expect, it } from 'vitest';
import { entries } from '../../entries/entries.ts';
import { amortizedRows, effective, equal, fee, times, withCosts } from '../../testing/loan-costs.ts';
import { draw, paid, settled } from '../../testing/loan-events.ts';
import { day, level, percent, plainLoan } from '../../testing/plain-loan.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import type { LoanSchedule } from '../schedule/loan-schedule.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import type { LoanTerms, Phase } from '../terms/loan-terms.ts';
import {
  amortizedCosts,
  costAmortization,
  costPlansOf,
  costsThrough,
  unamortizedCosts,
} from './issue-costs.ts';

describe('costs in equal parts', () => {
  // Straight-line (ASC 835-30-35-4 where it comes near the effective method): a part a payment, the last takes the rest.
  it('take a part with each payment, and by days within a period', () => {
    const schedule = withCosts(equal(3_000), { dayCount: 'ACT/360' });
    expect(amortizedRows(schedule)).toEqual(times(12, 250));
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
    expect(amortizedRows(withCosts(equal(1_000), {}, [level(3)]))).toEqual([333, 333, 334]);
    expect(amortizedRows(withCosts(undefined))).toEqual([]);
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
    expect(amortizedRows(onDue)).toEqual([...times(5, 100), ...times(7, 200)]);
    expect([costsThrough(onDue, day('2025-05-31')), costsThrough(onDue, day('2025-06-01'))]).toEqual([
      1_200, 1_900,
    ]);
    // On 16 May 15 of 31 days have taken 48; 752 and 700 go over 16 of 31 days and seven payments: 102 and 192.
    const within = made(fee('2025-05-16', 700));
    const each = 1_452 / (16 / 31 + 7);
    expect(amortizedRows(within).slice(0, 11)).toEqual([
      ...times(4, 100),
      48 + Math.round((each * 16) / 31),
      ...times(6, Math.round(each)),
    ]);
    expect(amortizedRows(within).reduce((sum, amount) => sum + amount, 0)).toBe(1_900);
    expect(amortizedCosts(within, day('2025-05-16'))).toBe(448);
    expect(amortizedRows(made(fee('2025-06-01', 700, 'expense')))).toEqual(times(12, 100));
    expect(costPlansOf(withCosts(undefined, { events: [fee('2025-06-01', 700)] }))).toBe(2);
    expect(costPlansOf(withCosts(undefined, { events: [fee('2025-06-01', 700, 'expense')] }))).toBe(0);
  });

  // The last day takes what is left, be it a due date or not.
  it('are all amortized on the day that the loan is settled on', () => {
    const made = withCosts(equal(1_200), { dayCount: 'ACT/360', events: [settled('2025-06-16')] });
    expect(amortizedRows(made)).toEqual([...times(5, 100), 700]);
    // Until then nobody knows: 14 of the 30 days of June's payment.
    expect(amortizedCosts(made, day('2025-06-15'))).toBe(500 + 47);
    expect(unamortizedCosts(made, day('2025-06-16'))).toBe(0);
    expect(amortizedCosts(made, day('2025-12-01'))).toBe(1_200);
  });

  // Until it is settled the loan never ends: it is known with its settlement, which costs are spread to.
  it('are spread to a settlement that a loan does not end without', () => {
    const events = [settled('2025-06-16'), paid('2025-03-01', '2025-03-11', 1_000)];
    const phases: Phase[] = [{ type: 'fixed', payment: 1_000 }];
    const made = withCosts(equal(1_200), { dayCount: 'ACT/360', events }, phases);
    // Five payments and the settlement take a sixth each; what comes late between due dates takes none.
    expect(amortizedRows(made)).toEqual([200, 200, 0, ...times(4, 200)]);
    // Ten of the 31 days of March, from its first on.
    expect(amortizedCosts(made, day('2025-03-11'))).toBe(400 + 65);
    const [plan] = costAmortization(
      withCosts(effective(1_200), { dayCount: 'ACT/360', events }, phases),
    ).effectiveRates;
    expect(Number(plan?.rate)).toBeGreaterThan(0.12);
  });

  // The payment takes the part of its period, whatever else happens on its day: a row of its own takes none.
  it('take one part on a day on which more than one thing happens, with the payment', () => {
    const drawn = withCosts(equal(1_200), { events: [draw('2025-03-01', 10_000)] });
    expect(amortizedRows(drawn)).toEqual([100, 100, 0, ...times(10, 100)]);
    expect(
      entries(drawn, day('2025-03-01'), day('2025-03-01'), 'none').map(({ memo, lines }) => [
        memo,
        lines.find(({ account }) => account === 'issue-costs')?.credit,
      ]),
    ).toEqual([
      ['Payment 2', 100],
      ['Amount drawn', undefined],
    ]);
    const settledThen = withCosts(equal(1_200), { events: [settled('2025-03-01')] });
    expect(amortizedRows(settledThen).reduce((sum, amount) => sum + amount, 0)).toBe(1_200);
    expect(amortizedRows(settledThen).at(-1)).toBe(1_100);
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
    expect(amortizedRows(made)).toEqual([3_100, 3_100]);
  });

  it('take the days of a month of thirty where a day count gives a stretch none', () => {
    const schedule = withCosts(
      equal(100),
      { dayCount: '30/360', start: day('2025-01-30'), first: day('2025-01-31'), keepMonthEnd: true },
      [level(2)],
    );
    expect(amortizedRows(schedule)).toEqual([50, 50]);
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
    expect(amortizedRows(line).filter((amount) => amount !== 0)).toEqual([900, 910, 920, 920]);
  });
});
