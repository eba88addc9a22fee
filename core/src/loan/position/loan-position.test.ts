import { describe, expect, it } from 'vitest';
import { formatDay } from '../../calendar/calendar-day.ts';
import type { Position } from '../../position/position-figures.ts';
import { draw, paid, withEvents } from '../../testing/loan-events.ts';
import { day, level, percent, thousand } from '../../testing/plain-loan.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import type { LoanSchedule } from '../schedule/loan-schedule.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import type { LoanTerms, Phase } from '../terms/loan-terms.ts';
import { accruedOver } from './accrued-over.ts';
import { loanPosition } from './loan-position.ts';

const waiting: readonly Phase[] = [{ type: 'interest-only', count: 4 }];
const built = (more: Partial<LoanTerms>, phases = waiting): LoanSchedule =>
  buildLoanSchedule(thousand(phases, { annualRate: percent('36'), dayCount: 'ACT/360', ...more }));
const at = (schedule: LoanSchedule, on: string): Position => loanPosition(schedule, day(on));

const rounding = { interest: 'cent', payment: 'cent', ties: 'away-from-zero' } as const;
const missed = withEvents(paid('2025-02-01', '2025-02-01', 0));
const line: Partial<LoanTerms> = {
  kind: 'credit-line',
  amount: 0,
  creditLine: { limit: 200_000, unusedFee: percent('3.6') },
  ...withEvents(draw('2025-01-11', 100_000)),
};

// 1,000.00 at 36 % by actual days over 360: a day costs 1.00. Interest is due on the first of February, March, April and
// May 2025, the balance with the last.
describe('what has accrued on a loan', () => {
  const over = (more: Partial<LoanTerms>, on: string): unknown[] =>
    accruedOver(built(more), day(on)).map(({ days, balance, rate }) => [days, balance, rate]);

  it('is of each balance and rate since interest was charged, days of one beside the other counted together', () => {
    expect(over({}, '2025-01-01')).toEqual([]);
    expect(over({}, '2025-01-11')).toEqual([[10, 100_000, '36.00%']]);
    expect(over({}, '2025-02-11')).toEqual([[10, 100_000, '36.00%']]);
    expect(over({}, '2025-05-11')).toEqual([]);
    expect(over(withEvents(draw('2025-01-11', 100_000)), '2025-01-21')).toEqual([
      [10, 100_000, '36.00%'],
      [10, 200_000, '36.00%'],
    ]);
    const rateSteps = [{ from: day('2025-01-11'), annualRate: percent('18'), payment: 'keep' }] as const;
    expect(over({ rateSteps }, '2025-01-21')).toEqual([
      [10, 100_000, '36.00%'],
      [10, 100_000, '18.00%'],
    ]);
    // Interest that is added is charged.
    expect(over(withEvents({ type: 'interest-added', on: day('2025-01-11') }), '2025-01-21')).toEqual([
      [10, 101_000, '36.00%'],
    ]);
    // A late payment of interest leaves the balance as it was: its days before and after are one stretch.
    const late = withEvents(paid('2025-02-01', '2025-02-11', 3_100));
    expect(over(late, '2025-02-21')).toEqual([[20, 100_000, '36.00%']]);
    expect(over(withEvents(paid('2025-02-01', '2025-02-11', 3_200)), '2025-02-21')).toEqual([
      [10, 100_000, '36.00%'],
      [10, 99_900, '36.00%'],
    ]);
    // ACT/ACT counts the days of each year apart; what was owed in both is one.
    const years = { dayCount: 'ACT/ACT-ISDA', start: day('2024-12-16') } as const;
    expect(over(years, '2025-01-16')).toEqual([[31, 100_000, '36.00%']]);
    // Whole minor units of a balance that is not rounded: 1,000.00 less a third of 40.00.
    const unrounded = { rounding: { ...rounding, payment: 'none', interest: 'none' } } as const;
    const third: Phase = { type: 'equal-principal', count: 3 };
    expect(accruedOver(built(unrounded, [third]), day('2025-02-11'))).toEqual([
      { days: 10, balance: 66_667, rate: '36.00%' },
    ]);
  });

  it('goes on where something is left at the end, and stops where nothing is', () => {
    const accrued = (more: Partial<LoanTerms>, on: string): number => at(built(more), on).accruedInterest;
    const days = ['2024-12-31', '2025-01-01', '2025-01-02', '2025-04-30', '2025-05-01', '2025-05-11'];
    expect(days.map((on) => accrued({}, on))).toEqual([0, 0, 100, 2_900, 0, 0]);
    expect(days.map((on) => accrued({ atEnd: 'leave' }, on))).toEqual([0, 0, 100, 2_900, 0, 1_000]);
    // Interest that had accrued before the loan was taken on is with it until the first payment.
    const takenOn = { takenOn: { accruedInterest: 500 } };
    expect(days.map((on) => accrued(takenOn, on))).toEqual([0, 500, 600, 2_900, 0, 0]);
    expect(['2025-01-31', '2025-02-01'].map((on) => accrued(takenOn, on))).toEqual([3_500, 0]);
    // An extra between due dates charges nothing.
    const extra = withEvents({
      type: 'extra-principal',
      on: day('2025-01-11'),
      amount: 10_000,
      then: 'shorten',
    });
    expect(accrued({ ...takenOn, ...extra }, '2025-01-21')).toBe(500 + 1_000 + 900);
  });

  it('has the fee on the unused part of a line with it, until the last day', () => {
    const fee = (more: Partial<LoanTerms>, on: string): number => at(built(more), on).accruedFee;
    const days = [
      '2024-12-31',
      '2025-01-06',
      '2025-01-21',
      '2025-02-01',
      '2025-04-30',
      '2025-05-01',
      '2025-05-02',
    ];
    expect(days.map((on) => fee(line, on))).toEqual([0, 100, 300, 0, 290, 0, 0]);
    expect(fee({ ...line, creditLine: { limit: 200_000, unusedFee: percent('0') } }, '2025-01-06')).toBe(0);
    expect(fee({}, '2025-01-06')).toBe(0);
  });
});

describe('the position of a loan', () => {
  it('tells what stands unpaid, put off and overpaid from the row that made it so', () => {
    const figures = (schedule: LoanSchedule, on: string): unknown => {
      const { unpaidInterest, deferredInterest, overpaid, outstanding } = at(schedule, on);
      return [unpaidInterest, deferredInterest, overpaid, outstanding];
    };
    expect(figures(built(missed), '2025-01-31')).toEqual([0, 0, 0, 100_000]);
    expect(figures(built(missed), '2025-02-01')).toEqual([3_100, 0, 0, 100_000]);
    const keptApart: Phase = { type: 'no-payment', count: 2, interest: 'kept-apart', then: 'add-to-balance' };
    const kept = built({}, [keptApart, { type: 'interest-only', count: 2 }]);
    expect(['2024-12-31', '2025-01-31', '2025-02-01', '2025-03-01'].map((on) => figures(kept, on))).toEqual([
      [0, 0, 0, 0],
      [0, 0, 0, 100_000],
      [3_100, 3_100, 0, 100_000],
      [0, 0, 0, 105_900],
    ]);
    const over = built(withEvents(paid('2025-05-01', '2025-05-01', 105_000)));
    expect(['2024-12-31', '2025-04-30', '2025-05-01'].map((on) => figures(over, on))).toEqual([
      [0, 0, 0, 0],
      [0, 0, 0, 100_000],
      [0, 0, 2_000, 0],
    ]);
  });

  it('names the next payment that falls due, as it is agreed', () => {
    const next = (schedule: LoanSchedule, on: string): unknown => {
      const found = at(schedule, on).next;
      return found && [formatDay(found.due), found.payment];
    };
    const days = ['2024-12-01', '2025-01-31', '2025-02-01', '2025-04-30', '2025-05-01'];
    expect(days.map((on) => next(built({}), on))).toEqual([
      ['2025-02-01', 3_100],
      ['2025-02-01', 3_100],
      ['2025-03-01', 2_800],
      ['2025-05-01', 103_000],
      null,
    ]);
    // A draw that is not made yet falls due to nobody, and neither does one that is.
    expect(next(built(withEvents(draw('2025-02-11', 100_000))), '2025-02-05')).toEqual(['2025-03-01', 2_800]);
    expect(
      next(built(withEvents(draw('2025-02-11', 100_000), draw('2025-02-21', 100_000))), '2025-02-11'),
    ).toEqual(['2025-03-01', 4_600]);
    expect(next(built(missed), '2025-02-15')).toEqual(['2025-03-01', 2_800]);
  });

  // IAS 1.69(d) and 76: what may be called at any time is current; otherwise what falls due within twelve months.
  it('has as current what is due within a year, on demand or in arrears', () => {
    const current = (schedule: LoanSchedule, on: string): number => at(schedule, on).current;
    const long: readonly Phase[] = [{ type: 'interest-only', count: 30 }];
    expect(current(built({ ...line, atEnd: 'leave' }, long), '2025-01-11')).toBe(100_000);
    expect(current(built(line, long), '2025-01-11')).toBe(0);
    expect(current(built({ atEnd: 'leave' }, long), '2025-01-11')).toBe(0);
    expect(
      ['2024-12-31', '2026-06-30', '2026-07-01', '2027-07-01'].map((on) => current(built({}, long), on)),
    ).toEqual([0, 0, 100_000, 0]);
    // Listed payments: of 500.00 that were missed 151.00 was interest, and the rest is due two years on.
    const listed: Phase = {
      type: 'custom',
      payments: [
        { on: day('2025-06-01'), amount: 50_000 },
        { on: day('2027-06-01'), amount: 150_000 },
      ],
    };
    const far = built(withEvents(paid('2025-06-01', '2025-06-01', 0)), [listed]);
    expect(['2025-01-06', '2025-07-01', '2026-05-31', '2026-06-01'].map((on) => current(far, on))).toEqual([
      34_900, 34_900, 34_900, 100_000,
    ]);
    // Nothing falls due within the year after: the first payment is further away.
    expect(
      current(
        built({}, [{ ...listed, payments: [{ on: day('2027-06-01'), amount: 150_000 }] }]),
        '2025-01-06',
      ),
    ).toBe(0);
  });
});

// Current and non-current add up to what is carried, and neither owes less than nothing for it (IAS 1.69–76).
describe('what is current', () => {
  it('is never less than nothing, though costs deferred late are more than what is still owed', () => {
    const fee: LoanEvent = { type: 'fee', on: day('2025-04-10'), amount: 90_000, treatment: 'defer' };
    const { carrying, current, nonCurrent } = at(built(withEvents(fee), [level(4)]), '2025-04-20');
    expect(carrying).toBeLessThan(0);
    expect([current, nonCurrent]).toEqual([0, carrying]);
  });
});
