import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Explanation } from '../explain/explanation.ts';
import { buildLoanSchedule } from '../loan/schedule/build-loan-schedule.ts';
import { arbitraryFundAsMade } from '../testing/arbitrary-fund.ts';
import { plainFund } from '../testing/plain-fund.ts';
import { day, level, plainLoan } from '../testing/plain-loan.ts';
import { buildFundSchedule } from './build-fund-schedule.ts';
import { explainFundAndDebt, explainFundFigure, explainNetDebt } from './explain-fund.ts';

/** What the steps of a sum come to: those that begin with a minus are taken away. */
const sumOf = ({ steps }: Explanation): number =>
  steps.reduce((sum, { label, amount = 0 }) => sum + (label.startsWith('−') ? -amount : amount), 0);

describe('a figure of a fund', () => {
  it('is the sum of what it names, wherever it is a sum', () => {
    fc.assert(
      fc.property(arbitraryFundAsMade, (terms) => {
        const schedule = buildFundSchedule(terms);
        // Where nothing is rounded, rounded figures need not add up.
        if (terms.rounding.interest === 'none' || terms.rounding.deposit === 'none') return;
        schedule.rows.forEach((row, at) => {
          expect(sumOf(explainFundFigure(schedule, at, 'closing'))).toBe(row.closing);
          expect(sumOf(explainFundFigure(schedule, at, 'opening'))).toBe(row.opening);
          const deposit = explainFundFigure(schedule, at, 'deposit');
          if (deposit.unrounded === undefined) expect(sumOf(deposit)).toBe(row.deposit);
          else
            expect(
              Math.abs(Number(deposit.unrounded) * 10 ** terms.digits - row.deposit),
            ).toBeLessThanOrEqual(10 ** terms.digits);
        });
      }),
    );
  });

  it('leads to where each of its inputs stands', () => {
    const schedule = buildFundSchedule(
      plainFund('10', { goal: 100_000, deposits: { type: 'level', count: 3 } }),
    );
    const links = (at: number, figure: 'opening' | 'closing' | 'deposit'): unknown =>
      explainFundFigure(schedule, at, figure).steps.map(({ label, link }) => [label, link]);
    expect(links(0, 'opening')).toEqual([['Held at the beginning', undefined]]);
    expect(links(1, 'opening')).toEqual([['Closing of deposit 1', { to: 'row', row: 0, column: 'closing' }]]);
    expect(links(1, 'closing')).toEqual([
      ['Opening', { to: 'row', row: 1, column: 'opening' }],
      ['+ interest', { to: 'row', row: 1, column: 'interest' }],
      ['+ deposit', { to: 'row', row: 1, column: 'deposit' }],
    ]);
    // The first is level and solved; the last takes what the goal lacks.
    expect(links(0, 'deposit')).toEqual([
      ['The goal', { to: 'terms', key: 'goal' }],
      ['Level deposits', { to: 'terms', key: 'count' }],
      ['Annual rate', { to: 'terms', key: 'rate' }],
    ]);
    expect(explainFundFigure(schedule, 0, 'deposit')).toMatchObject({
      title: 'Deposit, deposit 1',
      rounding: 'to the cent, halves up',
    });
  });

  it('says how its interest is made: on what is held, or on what was paid in where interest earns none', () => {
    const steps = (compounding: 'simple' | 'each-payment'): unknown => {
      const deposits = { type: 'level', amount: 100_000, count: 3 } as const;
      const schedule = buildFundSchedule(plainFund('10', { compounding, deposits }));
      const { steps: told, unrounded, amount } = explainFundFigure(schedule, 2, 'interest');
      return [told[0]?.amount, Number(unrounded), amount];
    };
    // 10 % of 2,100.00 held, or of 2,000.00 paid in.
    expect(steps('each-payment')).toEqual([210_000, 210, 21_000]);
    expect(steps('simple')).toEqual([200_000, 200, 20_000]);
  });
});

describe('a fund beside the debt it repays', () => {
  const debt = buildLoanSchedule(
    plainLoan([level(2, 10)], {
      every: 'year',
      start: day('2025-01-31'),
      first: day('2026-01-31'),
      amount: 100_000,
    }),
  );
  const fund = buildFundSchedule(plainFund('0', { goal: 60_000, deposits: { type: 'level', count: 3 } }));

  it('explains net debt as what is owed less what is held, and what is held as paid out on its last day', () => {
    const first = explainNetDebt(fund, debt, 0);
    expect([first.steps.map(({ label }) => label), sumOf(first)]).toEqual([
      ['Owed', '− held by the fund'],
      first.amount,
    ]);
    expect(first.steps[1]?.link).toEqual({ to: 'row', row: 0, column: 'closing' });
    const last = explainNetDebt(fund, debt, 2);
    expect([last.steps[1]?.label, last.steps[1]?.link, sumOf(last)]).toEqual([
      '− held by the fund, which is paid out',
      undefined,
      last.amount,
    ]);
  });

  it('explains net interest and outlay as sums', () => {
    for (const figure of ['netInterest', 'outlay'] as const) {
      const made = explainFundAndDebt(fund, debt, figure);
      expect(sumOf(made)).toBe(made.amount);
    }
  });
});
