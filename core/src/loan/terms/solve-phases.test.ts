import { describe, expect, it } from 'vitest';
import { ratio, ratioToNumber } from '../../money/ratio.ts';
import { compoundings } from '../../rates/compounding.ts';
import { day, level, percent, thousand } from '../../testing/plain-loan.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import { Precise } from '../../money/precise.ts';
import { balanceLeft, broughtInOf, leftInDoubles } from './contract-balance.ts';
import { agreedRates, growthOfParts } from './contract-growth.ts';
import { contractSteps } from './contract-steps.ts';
import type { LoanTerms, Phase } from './loan-terms.ts';
import { solveUnknown } from './solve-unknown.ts';

/** Present value of 1 a month for n months at 1 %, the first in a month (annuity-immediate). */
const a = (n: number): number => (1 - 1.01 ** -n) / 0.01;
const v = (n: number): number => 1.01 ** -n;
const waiting = (
  interest: 'added-each-period' | 'kept-apart',
  then: 'pay' | 'add-to-balance' = 'pay',
): Phase => ({
  type: 'no-payment',
  count: 5,
  interest,
  then,
});
const listed: Phase = {
  type: 'custom',
  payments: [
    { on: day('2025-02-01'), amount: 40_000 },
    { on: day('2025-03-01'), amount: 70_000 },
  ],
};
const pays: Phase = level(12, 12, 10_000);
const fixed: Phase = { type: 'fixed', count: 24, payment: 10_000 };

// At 1 % a month, the present value of what is paid (Kellison, The Theory of Interest, chapters 3 and 4).
const known: [string, readonly Phase[], number, Partial<LoanTerms>?][] = [
  ['a level payment', [pays], 10_000 * a(12)],
  ['a level payment meant for a longer term', [level(12, 24, 10_000)], 10_000 * a(24)],
  ['one that is not the last for as long as it is paid', [level(12, 24, 10_000), pays], 10_000 * a(24)],
  ['a balloon', [{ ...pays, balloon: 50_000 } as Phase], 10_000 * a(12) + 50_000 * v(12)],
  ['a fixed payment', [fixed], 10_000 * a(24)],
  [
    'one that rises by a tenth after a year',
    [{ ...fixed, rises: { by: 'share', share: ratio(1n, 10n) } }],
    10_000 * a(12) + 11_000 * a(12) * v(12),
  ],
  ['listed payments', [listed], 40_000 * v(1) + 70_000 * v(2)],
  [
    'equal principal, and a level payment after it',
    [{ type: 'equal-principal', count: 6, principal: 5_000 }, pays],
    30_000 + 10_000 * a(12),
  ],
  ['interest, and a level payment after it', [{ type: 'interest-only', count: 5 }, pays], 10_000 * a(12)],
  ['nothing while interest joins the balance', [waiting('added-each-period'), pays], 10_000 * a(12) * v(5)],
  ['nothing while interest waits to be paid', [waiting('kept-apart'), pays], 10_000 * a(12)],
  // Interest kept apart earns none.
  [
    'nothing until interest joins the balance',
    [waiting('kept-apart', 'add-to-balance'), pays],
    (10_000 * a(12)) / 1.05,
  ],
  [
    'interest accrued before it was taken on',
    [pays],
    10_000 * a(12) - 2_000 * v(1),
    { takenOn: { accruedInterest: 2_000 } },
  ],
];

describe('a loan that is repaid by agreed payments', () => {
  it.each<[string, readonly Phase[], number, Partial<LoanTerms>?]>(known)(
    'is worth %s',
    (_, phases, worth, more = {}) => {
      const terms = thousand(phases, { ...more, amount: 1 });
      const solved = solveUnknown(terms, 'amount');
      expect(Number(solved.solved?.value)).toBeCloseTo(worth / 100, 9);
      expect(solved.amount).toBe(Math.round(worth));
      // At that amount the payments come to that rate again, but for half a minor unit of it.
      const back = solveUnknown({ ...solved, annualRate: percent('3') }, 'annual');
      expect(Math.abs(ratioToNumber(back.annualRate) - 0.12)).toBeLessThan(1e-3);
      expect(Math.abs(Number(back.solved?.residual))).toBeLessThan(1e-20);
    },
  );

  it.each(compoundings)(
    'comes to the rate that it was worked out at, whatever stands between: %s',
    (compounding) => {
      const phases = [
        waiting('added-each-period'),
        { type: 'equal-principal', count: 6, principal: 5_000 } as const,
        pays,
      ];
      for (const [dayCount, rate] of [
        ['even-periods', '12'],
        ['ACT/365F', '0.5'],
        ['ACT/360', '60'],
      ] as const) {
        const terms = thousand(phases, { compounding, dayCount, annualRate: percent(rate), amount: 1 });
        const solved = solveUnknown(terms, 'amount');
        const back = solveUnknown({ ...solved, annualRate: percent('3') }, 'annual');
        expect(Math.abs(ratioToNumber(back.annualRate) - Number(rate) / 100)).toBeLessThan(1e-4);
        const last = buildLoanSchedule(solved);
        expect(Math.abs((last.payment[last.length - 1] as number) - 10_000)).toBeLessThan(60);
      }
    },
  );

  // What a rate is first looked for with must be what it is then worked out with.
  it.each(compoundings)('leaves the same in doubles as in decimals, whatever it does: %s', (compounding) => {
    const phases: readonly Phase[] = [
      waiting('added-each-period'),
      { type: 'interest-only', count: 2 },
      waiting('kept-apart', 'add-to-balance'),
      { type: 'equal-principal', count: 3, principal: 5_000 },
      waiting('kept-apart'),
      level(6, 6, 4_000),
    ];
    const rateSteps = [{ from: day('2025-09-11'), annualRate: percent('21'), payment: 'keep' }] as const;
    for (const takenOn of [undefined, { accruedInterest: 7_000 }]) {
      const terms = thousand(phases, {
        compounding,
        dayCount: 'ACT/365F',
        rateSteps,
        ...(takenOn && { takenOn }),
      });
      const [steps, rates] = [contractSteps(terms, 'rate.annual'), agreedRates(terms)];
      const quick = leftInDoubles(terms, rates, steps);
      for (const rate of ['0', '0.09', '2.5']) {
        const growth = growthOfParts(terms, rates, new Precise(rate));
        const exact = balanceLeft(steps, new Precise(terms.amount), growth, broughtInOf(terms)).toNumber();
        expect(Math.abs(quick(Number(rate)) - exact)).toBeLessThan(1e-9 * Math.abs(exact));
      }
    }
  });

  it('is refused where a payment is left open, or something pays whatever is left', () => {
    const solving =
      (phases: readonly Phase[], unknown: 'amount' | 'annual' = 'amount') =>
      () =>
        solveUnknown(thousand(phases, { amount: unknown === 'amount' ? 1 : 100_000 }), unknown);
    expect(solving([level(12), pays])).toThrow(
      'To solve amount, this payment must be given; only one may be unknown.',
    );
    expect(solving([{ type: 'equal-principal', count: 6 }, pays], 'annual')).toThrow(
      'To solve rate.annual, this principal of each payment must be given',
    );
    expect(solving([pays, { type: 'fixed', payment: 10_000 }])).toThrow(
      'To solve amount, the count must be given',
    );
    for (const last of [{ type: 'interest-only', count: 3 }, waiting('kept-apart')] as const) {
      expect(solving([pays, last])).toThrow('The last stretch pays whatever is left');
    }
    try {
      solving([pays, level(12)])();
    } catch (error) {
      expect(error).toMatchObject({ key: 'payments.phases.1.payment' });
    }
    expect.assertions(6);
  });

  it('is refused where the rate cannot be reached, with what would do', () => {
    const annual =
      (amount: number, phases: readonly Phase[], more: Partial<LoanTerms> = {}) =>
      () =>
        solveUnknown(thousand(phases, { amount, ...more }), 'annual');
    // Of 19 that pay, or repay, 12; the five that wait count for none: 120.00 missing, 10.00 each.
    const short = [waiting('added-each-period'), { type: 'interest-only', count: 2 } as const, pays];
    expect(annual(132_000, short)).toThrow(
      'The payments sum to 120.00 less than the amount, so no rate from 0% up is reached; with 10.00 more in each',
    );
    expect(
      annual(48_000, [{ type: 'equal-principal', count: 6, principal: 3_000 }, level(12, 12, 2_000)]),
    ).toThrow(
      'The payments sum to 60.00 less than the amount, so no rate from 0% up is reached; with 3.34 more in each',
    );
    expect(
      ratioToNumber(solveUnknown(thousand([pays], { amount: 120_000 }), 'annual').annualRate),
    ).toBeCloseTo(0, 12);
    // Principal alone is repaid at any rate.
    expect(annual(30_000, [{ type: 'equal-principal', count: 6, principal: 5_000 }])).toThrow(
      'any rate would do',
    );
    expect(annual(1_000, [pays])).toThrow(
      'Even at 1000% these payments repay more than is owed; lower them.',
    );
    expect(
      annual(100_000, [pays], {
        rateSteps: [{ from: day('2025-01-01'), annualRate: percent('3'), payment: 'keep' }],
      }),
    ).toThrow('so this one is never in force');
    const owing = thousand([level(2, 2, 100)], { amount: 1, takenOn: { accruedInterest: 300 } });
    expect(() => solveUnknown(owing, 'amount')).toThrow(
      'These payments do not repay any amount at this rate; raise them.',
    );
  });

  it('names a count or a payment that scheduling solves, and works nothing out for it', () => {
    expect(solveUnknown(thousand([level(12)]), 'payment').solved).toEqual({ unknown: 'payment', value: '' });
    expect(solveUnknown(thousand([level(12, 12, 8_885)]), 'count').solved).toEqual({
      unknown: 'count',
      value: '',
    });
  });
});
