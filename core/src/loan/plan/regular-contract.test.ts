import { describe, expect, it } from 'vitest';
import { day, level, percent, thousand } from '../../testing/plain-loan.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import type { LoanTerms, Phase } from '../terms/loan-terms.ts';
import { contractAfter } from './contract.ts';
import {
  estimatedLeft,
  follow,
  followPayments,
  regularContract,
  type RegularContract,
} from './regular-contract.ts';

const rounding = { interest: 'cent', payment: 'cent', ties: 'away-from-zero' } as const;
const regular = (
  after: string,
  more: Partial<LoanTerms> = {},
  phases: readonly Phase[] = [level(12)],
): RegularContract | undefined =>
  regularContract(contractAfter(buildLoanSchedule(thousand(phases, more)), day(after)));
const event = (more: LoanEvent): Partial<LoanTerms> => ({ events: [more] });
const missed = (due: string, on = due): Partial<LoanTerms> =>
  event({ type: 'paid', due: day(due), on: day(on), amount: on === due ? 0 : 8_885 });
const extra = (on: string): Partial<LoanTerms> =>
  event({ type: 'extra-principal', on: day(on), amount: 1_000, then: 'shorten' });
const waiting = (interest: 'added-each-period' | 'kept-apart'): readonly Phase[] => [
  { type: 'no-payment', count: 3, interest, then: 'pay' },
  level(9),
];

describe('a contract that is followed without a schedule', () => {
  // 1,000.00 at 1 % a month in twelve payments of 88.85: 261.30 is left after nine, by hand, interest rounded to cents.
  it('charges the growth of the balance and takes what is asked, as its schedule does', () => {
    const contract = regular('2025-10-01') as RegularContract;
    expect([contract.balance, contract.step]).toEqual([26_130, 1]);
    expect(contract.dues.map(({ on, asked }) => [on, asked])).toEqual([
      [day('2025-11-01'), 8_885],
      [day('2025-12-01'), 8_885],
      [day('2026-01-01'), 8_884],
    ]);
    // 261.30 + 2.61 − 88.85 = 175.06; + 1.75 − 88.85 = 87.96; + 0.88 = 88.84.
    expect(follow(contract, 0, 3)).toEqual({ clearedBy: 2, left: 0, interest: 524, paid: 26_654 });
    expect(follow(contract, 0, 2)).toEqual({ clearedBy: -1, left: 8_796, interest: 436, paid: 17_770 });
    // 261.30 + 2.61 − 200.00 = 63.91; + 0.64 = 64.55.
    const { payments, ...raised } = followPayments(contract, 20_000, 3);
    expect(raised).toEqual({ clearedBy: 1, left: 0, interest: 325, paid: 26_455 });
    expect(payments).toEqual([
      { on: day('2025-11-01'), amount: 20_000 },
      { on: day('2025-12-01'), amount: 6_455 },
    ]);
    // Whole units: 261 + 3 − 88.85 …
    expect(regular('2025-10-01', { rounding: { ...rounding, interest: 'unit' } })?.step).toBe(100);
  });

  it('is estimated in doubles, with how what is left changes with the level', () => {
    const contract = regular('2025-10-01') as RegularContract;
    // 261.30 · 1.01² − 100.00 · (1.01 + 1); each cent of a payment takes 2.01 cents.
    const { left, slope } = estimatedLeft(contract, 10_000, 2);
    expect(left).toBeCloseTo(26_130 * 1.0201 - 20_100, 6);
    expect(slope).toBeCloseTo(-2.01, 6);
    // What is asked is paid also where the level is below it, and then the level changes nothing.
    expect(estimatedLeft(contract, 5_000, 2).left).toBeCloseTo(26_130 * 1.0201 - 8_885 * 2.01, 6);
    expect(estimatedLeft(contract, 5_000, 2).slope).toBeCloseTo(0, 6);
    expect(estimatedLeft(contract, 8_885, 2).slope).toBeCloseTo(-2.01, 6);
  });

  it.each<[string, string, Partial<LoanTerms>, (readonly Phase[])?]>([
    ['before it begins', '2024-12-31', {}],
    ['with interest unrounded', '2025-03-01', { rounding: { ...rounding, interest: 'none' } }],
    ['with payments unrounded', '2025-03-01', { rounding: { ...rounding, payment: 'none' } }],
    ['of a credit line', '2025-03-01', { creditLine: { limit: 500_000, unusedFee: percent('0') } }],
    ['with interest in arrears', '2025-03-01', missed('2025-03-01')],
    ['with a payment of days to come recorded', '2025-03-01', missed('2025-07-01')],
    [
      'drawn on later',
      '2025-03-01',
      event({ type: 'draw', on: day('2025-07-10'), amount: 1_000, then: 'keep' }),
    ],
    ['with interest to be added', '2025-03-01', event({ type: 'interest-added', on: day('2025-07-10') })],
    ['with interest that joins the balance', '2025-01-15', {}, waiting('added-each-period')],
    ['with interest kept apart', '2025-01-15', {}, waiting('kept-apart')],
    ['with payments below its interest', '2025-03-01', {}, [{ type: 'fixed', payment: 900, count: 12 }]],
    ['on the way to its next payment with an extra paid', '2025-02-15', extra('2025-02-10')],
    ['taken on with interest accrued', '2025-01-15', { takenOn: { accruedInterest: 500 } }],
  ])('is left to its schedule %s', (_, after, more, phases) => {
    expect(regular(after, more, phases)).toBeUndefined();
  });

  it('is one again once what made it irregular has passed', () => {
    expect(regular('2025-02-01', { takenOn: { accruedInterest: 500 } })).toBeDefined();
    expect(regular('2025-07-01', missed('2025-03-01', '2025-03-20'))).toBeDefined();
    expect(regular('2025-03-01', extra('2025-02-10'))).toBeDefined();
    expect(regular('2025-04-01', {}, waiting('added-each-period'))).toBeDefined();
    expect(regular('2026-01-01')?.dues).toEqual([]);
  });
});
