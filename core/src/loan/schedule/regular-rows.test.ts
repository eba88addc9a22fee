import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ratio } from '../../money/ratio.ts';
import { multiplier, type Multiplier } from '../../money/rounded-product.ts';
import type { Ties } from '../../money/round-ratio.ts';
import { arbitraryLoan, arbitraryLoanWithEvents } from '../../testing/arbitrary-loan.ts';
import { level, plainLoan } from '../../testing/plain-loan.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import type { LoanTerms, Phase } from '../terms/loan-terms.ts';
import { buildLoanSchedule } from './build-loan-schedule.ts';
import { loanRows, type LoanSchedule } from './loan-schedule.ts';
import { LoanWalk } from './loan-walk.ts';
import { FillingColumns } from './loan-columns.ts';
import { fillRegularRows, type RegularRun } from './regular-rows.ts';

/** Loans of which most rows are plain: level, fixed, equal principal and interest only, at any rounding and rate. */
const mostlyPlain: fc.Arbitrary<LoanTerms> = fc
  .record({
    amount: fc.integer({ min: 1_000, max: 10 ** 12 }),
    annualRate: fc.integer({ min: 0, max: 4_000 }).map((at) => ratio(BigInt(at), 10_000n)),
    dayCount: fc.constantFrom('even-periods', 'ACT/365F', 'ACT/360', '30/360', 'ACT/ACT-ISDA'),
    every: fc.constantFrom('month', 'quarter', 'half-year', 'week'),
    phases: fc.array(
      fc.oneof(
        fc.integer({ min: 1, max: 90 }).map((count): Phase => level(count)),
        fc.integer({ min: 1, max: 90 }).map((count): Phase => ({ type: 'equal-principal', count })),
        fc.integer({ min: 1, max: 30 }).map((count): Phase => ({ type: 'interest-only', count })),
      ),
      { minLength: 1, maxLength: 3 },
    ),
    ties: fc.constantFrom<Ties>('away-from-zero', 'even'),
    interest: fc.constantFrom<LoanTerms['rounding']['interest']>('cent', 'unit'),
  })
  .map(({ phases, ties, interest, ...more }) =>
    plainLoan(phases, { ...more, rounding: { interest, payment: 'cent', ties } }),
  );

/** Extra principal of days that never come: where a payment may take some with it no row is written the quick way. */
const never: LoanEvent = {
  type: 'extra-each-payment',
  from: 200_000,
  to: 200_001,
  amount: 1,
  then: 'shorten',
};
const walked = ({ terms, stretches, rates }: LoanSchedule, ...more: readonly LoanEvent[]): LoanSchedule =>
  new LoanWalk({ ...terms, events: [...terms.events, ...more] }, stretches, rates).run();

describe('rows written many at once', () => {
  it('are those that the general rules write one by one, whatever happens between them', () => {
    fc.assert(
      fc.property(fc.oneof(mostlyPlain, arbitraryLoan, arbitraryLoanWithEvents), (terms) => {
        const built = buildLoanSchedule(terms);
        const [quick, slow] = [walked(built), walked(built, never)];
        expect(loanRows(quick)).toEqual(loanRows(slow));
        expect([...quick.chargedTo.subarray(0, quick.length)]).toEqual([
          ...slow.chargedTo.subarray(0, slow.length),
        ]);
        expect([...quick.setting.subarray(0, quick.length)]).toEqual([
          ...slow.setting.subarray(0, slow.length),
        ]);
        expect(quick.notices).toEqual(slow.notices);
      }),
      { numRuns: 400 },
    );
  });

  /** How many of twelve rows are written at once, and the balance after them. */
  const filled = (more: Partial<RegularRun>, balance: number): [number, number] => {
    const columns = new FillingColumns(12, balance);
    const growth = multiplier(ratio(1n, 100n));
    const run: RegularRun = {
      ...{ dues: Int32Array.from({ length: 12 }, (_, at) => 30 * at), from: 0, end: 12, number: 1 },
      ...{
        kind: 'payment',
        amount: 8_885,
        growthOf: () => growth,
        step: 1,
        ties: 'away-from-zero',
        setting: 0,
      },
      ...more,
    };
    const many = fillRegularRows(columns, run, balance);
    expect(columns.length).toBe(many);
    return [many, many === 0 ? balance : (columns.closing[many - 1] as number)];
  };

  it.each<[string, Partial<RegularRun>]>([
    ['quickly', {}],
    ['with halves to the even neighbour', { ties: 'even' }],
    ['at a growth with long parts', { growthOf: () => multiplier(ratio(10n ** 13n, 10n ** 15n + 1n)) }],
  ])('stop before the row that would clear the loan: %s', (_, more) => {
    // 1,000.00 at 1 % in twelve of 88.85: 87.96 is left after eleven, that the twelfth would clear.
    expect(filled(more, 100_000)).toEqual([11, 8_796]);
    expect(filled({ ...more, end: 3 }, 100_000)[0]).toBe(3);
    expect(filled({ ...more, from: 3, end: 3 }, 100_000)[0]).toBe(0);
    // What just clears it is no plain row either; and one that covers its interest alone is.
    expect([
      filled({ ...more, amount: 101_000 }, 100_000)[0],
      filled({ ...more, amount: 100_999 }, 100_000)[0],
    ]).toEqual([0, 1]);
    expect(filled({ ...more, amount: 1_000 }, 100_000)).toEqual([12, 100_000]);
    expect(filled({ ...more, amount: 999 }, 100_000)[0]).toBe(0);
    expect(filled({ ...more, kind: 'principal', amount: 10_000 }, 100_000)).toEqual([9, 10_000]);
    expect(filled({ ...more, kind: 'interest', amount: 0 }, 100_000)).toEqual([12, 100_000]);
  });

  it('are in whole units where interest is', () => {
    // 10.00 of 1,000.00 by steps of 1.00; 8.85 of principal, and 10.00 again of 991.15.
    expect(
      filled({ step: 100, growthOf: () => multiplier(ratio(1n, 10_000n)), amount: 1_885, end: 2 }, 100_000),
    ).toEqual([2, 98_230]);
  });

  it('go on exactly where the quick way ends: with growths and balances that it cannot take', () => {
    // Every other period has a growth with long parts, as far as it is from the plain ones.
    const both = [multiplier(ratio(1n, 100n)), multiplier(ratio(10n ** 13n, 10n ** 15n + 1n))] as const;
    expect(filled({ growthOf: (at) => both[at % 2] as Multiplier }, 100_000)).toEqual([11, 8_796]);
    // 123,456,789 parts of 536,870,909: plain numbers settle it to 2^49 of interest, and leave what is beyond.
    const long = ratio(123_456_789n, 536_870_909n);
    const at = (balance: number): [number, number] => {
      const charged = Number((BigInt(balance) * long.num * 2n + long.den) / (2n * long.den));
      return filled({ growthOf: () => multiplier(long), amount: charged + 1_000, end: 1 }, balance);
    };
    for (const balance of [2 ** 51 + 1, 2 ** 51 + 12_345]) expect(at(balance)).toEqual([1, balance - 1_000]);
    expect(at(2 ** 52 - 7)).toEqual([0, 2 ** 52 - 7]);
  });

  it('tell the setting of their payment, and due days of their own once there are any', () => {
    const columns = new FillingColumns(4, 100_000);
    columns.write({
      ...{
        n: 1,
        kind: 'payment',
        date: 5,
        due: 4,
        chargedTo: 3,
        setting: 0,
        payment: 0,
        interest: 0,
        principal: 0,
      },
      ...{
        extra: 0,
        added: 0,
        closing: 100_000,
        unpaid: 0,
        deferred: 0,
        principalInArrears: 0,
        overpaid: 0,
        fee: 0,
      },
    });
    const growth = multiplier(ratio(1n, 100n));
    const run = {
      dues: Int32Array.of(30, 60),
      from: 0,
      end: 2,
      number: 2,
      kind: 'payment',
      amount: 8_885,
    } as const;
    fillRegularRows(columns, { ...run, growthOf: () => growth, step: 1, ties: 'even', setting: 2 }, 100_000);
    const of = (column: ArrayLike<number>): number[] =>
      Array.from({ length: 3 }, (_, at) => column[at] as number);
    expect([
      of(columns.n),
      of(columns.date),
      of(columns.due),
      of(columns.chargedTo),
      of(columns.setting),
    ]).toEqual([
      [1, 2, 3],
      [5, 30, 60],
      [4, 30, 60],
      [3, 30, 60],
      [0, 2, 2],
    ]);
  });
});
