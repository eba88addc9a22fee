import { describe, expect, it } from 'vitest';
import { extra } from '../../testing/loan-events.ts';
import { day, level, thousand } from '../../testing/plain-loan.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import type { LoanSchedule } from '../schedule/loan-schedule.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import { contractAfter, duesBy } from './contract.ts';

// 1,000.00 at 12 % from New Year 2025 in twelve payments of 88.85, due on the first of February and so on.
const loan = (events: readonly LoanEvent[]): LoanSchedule =>
  buildLoanSchedule(thousand([level(12)], { events }));
const each = (from: string, to: string): LoanEvent => ({
  type: 'extra-each-payment',
  from: day(from),
  to: day(to),
  amount: 1_000,
  then: 'shorten',
});
const on = day('2025-06-01');

describe('the contract of a loan after a day', () => {
  // Extra principal is nobody's duty: what is planned of it after the day is not asked (as IAS 1.69(c) has it for the
  // current portion).
  it.each<[string, LoanEvent, readonly LoanEvent[]]>([
    ['extra principal the day before', extra('2025-05-31', 5_000), [extra('2025-05-31', 5_000)]],
    ['extra principal on the day', extra('2025-06-01', 5_000), [extra('2025-06-01', 5_000)]],
    ['extra principal the day after', extra('2025-06-02', 5_000), []],
    [
      'regular extras that end with the day',
      each('2025-02-01', '2025-06-01'),
      [each('2025-02-01', '2025-06-01')],
    ],
    ['regular extras that go on', each('2025-02-01', '2025-06-02'), [each('2025-02-01', '2025-06-01')]],
    [
      'regular extras that begin with the day',
      each('2025-06-01', '2025-09-01'),
      [each('2025-06-01', '2025-06-01')],
    ],
    ['regular extras that begin after it', each('2025-06-02', '2025-09-01'), []],
  ])('keeps what was paid, not what is only meant to be: %s', (_, event, kept) => {
    const schedule = loan([event]);
    const contract = contractAfter(schedule, on);
    expect(contract.schedule.terms.events).toEqual(kept);
  });

  it('leaves out only what is extra of several events', () => {
    const fee: LoanEvent = { type: 'fee', on: day('2025-08-01'), amount: 100, treatment: 'expense' };
    expect(contractAfter(loan([fee, extra('2025-07-15', 5_000)]), on).schedule.terms.events).toEqual([fee]);
  });

  it('is the schedule as it is where nothing is left out', () => {
    const [as, otherwise] = [loan([extra('2025-05-31', 5_000)]), loan([each('2025-02-01', '2025-07-01')])];
    expect(contractAfter(as, on).schedule).toBe(as);
    // 10.00 with each payment: the one of 1 July is still to come.
    expect(contractAfter(otherwise, on).schedule).not.toBe(otherwise);
    expect([otherwise.extra[5], contractAfter(otherwise, on).schedule.extra[5]]).toEqual([1_000, 0]);
  });

  it('asks for each due after the day, unless what is paid for it is known', () => {
    const dues = (events: readonly LoanEvent[]): unknown[] =>
      contractAfter(loan(events), day('2025-10-01')).dues.map(({ due, amount }) => [due, amount]);
    expect(dues([])).toEqual([
      [day('2025-11-01'), 8_885],
      [day('2025-12-01'), 8_885],
      [day('2026-01-01'), 8_884],
    ]);
    const paid: LoanEvent = { type: 'paid', due: day('2025-11-01'), on: day('2025-11-05'), amount: 8_885 };
    expect(dues([paid]).map((due) => (due as number[])[0])).toEqual([day('2025-12-01'), day('2026-01-01')]);
    // A draw falls due to nobody.
    const draw: LoanEvent = { type: 'draw', on: day('2025-11-15'), amount: 10_000, then: 're-level' };
    expect(dues([draw])).toHaveLength(3);
  });

  it('begins with what is owed at the end of the day', () => {
    const missed: LoanEvent = { type: 'paid', due: day('2025-02-01'), on: day('2025-02-01'), amount: 0 };
    const owed = (schedule: LoanSchedule, text: string): number[] => {
      const { balance, unpaid } = contractAfter(schedule, day(text));
      return [balance, unpaid];
    };
    expect(owed(loan([]), '2024-12-31')).toEqual([0, 0]);
    expect(owed(loan([]), '2025-01-01')).toEqual([100_000, 0]);
    expect(owed(loan([]), '2025-01-31')).toEqual([100_000, 0]);
    expect(owed(loan([]), '2025-02-01')).toEqual([92_115, 0]);
    expect(owed(loan([missed]), '2025-01-31')).toEqual([100_000, 0]);
    expect(owed(loan([missed]), '2025-02-01')).toEqual([100_000, 1_000]);
  });

  it('counts the dues through a day, its own with it', () => {
    const contract = contractAfter(loan([]), day('2025-10-01'));
    const days = ['2025-10-31', '2025-11-01', '2025-12-31', '2026-01-01', '2030-01-01'];
    expect(days.map((text) => duesBy(contract, day(text)))).toEqual([0, 1, 2, 3, 3]);
  });
});
