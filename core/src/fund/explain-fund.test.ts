import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sumOf } from '../testing/explained.ts';
import { buildLoanSchedule } from '../loan/schedule/build-loan-schedule.ts';
import { arbitraryFundAsMade } from '../testing/arbitrary-fund.ts';
import { plainFund } from '../testing/plain-fund.ts';
import { day, level, plainLoan } from '../testing/plain-loan.ts';
import { buildFundSchedule } from './build-fund-schedule.ts';
import { explainFundAndDebt, explainFundFigure, explainNetDebt } from './explain-fund.ts';

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

  it('says of each deposit what made it: the record, the goal, interest alone, the terms', () => {
    type Terms = Parameters<typeof plainFund>[1];
    const deposit = (at: number, terms: Terms, rate = '0'): unknown => {
      const { steps, unrounded } = explainFundFigure(
        buildFundSchedule(plainFund(rate, terms)),
        at,
        'deposit',
      );
      return [
        ...steps.map(({ label, amount, text, link }) => [
          label,
          amount ?? text,
          link && 'key' in link && link.key,
        ]),
        unrounded,
      ];
    };
    const level = { type: 'level', amount: 300, count: 3 } as const;
    const made = [{ due: day('2026-01-31'), on: day('2026-02-05'), amount: 250 }];
    const agreed = [['Agreed deposit', 300, 'deposit'], undefined];
    expect(deposit(0, { deposits: level, made })).toEqual(agreed);
    expect(deposit(1, { deposits: level, made })).toEqual([
      ['Recorded as made on 2026-02-05, for 2026-01-31', 250, undefined],
      undefined,
    ]);
    // It lands on the goal with what is agreed: then that is what made it.
    expect(deposit(1, { goal: 600, deposits: level })).toEqual(agreed);
    expect(deposit(1, { goal: 500, deposits: level })).toEqual([
      ['The goal', 500, 'goal'],
      ['− opening', 300, false],
      ['− its own interest', 0, false],
      undefined,
    ]);
    const listed = (...amounts: number[]): Terms => ({
      goal: 1_000,
      deposits: {
        type: 'listed',
        list: amounts.map((amount, at) => ({ on: day(`${2025 + at}-01-31`), amount })),
      },
    });
    expect(deposit(1, listed(990, 500), '50')).toEqual([
      ['Nothing is missing: interest alone passes the goal', 0, undefined],
      undefined,
    ]);
    expect(deposit(0, listed(990, 500), '50')).toEqual([['Listed in the terms', 990, 'deposit'], undefined]);
    // Nothing was paid in, and nothing is passed.
    expect(deposit(0, listed(0, 500))).toEqual([['Listed in the terms', 0, 'deposit'], undefined]);
    expect(deposit(0, { goal: 100_000, deposits: { type: 'level', count: 3 } })).toEqual([
      ['The goal', 100_000, 'goal'],
      ['Level deposits', '3, that reach it with their interest', 'count'],
      ['Annual rate', '0.00%', 'rate'],
      `333.${'3'.repeat(27)}`,
    ]);
  });

  it('says to what a deposit that was solved is rounded', () => {
    const rounding = (
      deposit: 'cent' | 'cent-up' | 'unit' | 'none',
      ties: 'even' | 'away-from-zero' = 'even',
    ): unknown =>
      explainFundFigure(
        buildFundSchedule(
          plainFund('0', {
            goal: 100_000,
            deposits: { type: 'level', count: 3 },
            rounding: { interest: 'cent', deposit, ties },
          }),
        ),
        0,
        'deposit',
      ).rounding;
    expect([
      rounding('cent'),
      rounding('cent', 'away-from-zero'),
      rounding('cent-up'),
      rounding('unit'),
      rounding('none'),
    ]).toEqual([
      'to the cent, a half to the even neighbour',
      'to the cent, halves up',
      'up to the cent',
      'to the whole unit, a half to the even neighbour',
      'not rounded; shown to the cent',
    ]);
  });

  it('names what its interest is earned on, and links each part to where it stands in the terms', () => {
    const told = (compounding: 'simple' | 'each-payment' | 'annual'): unknown[] => {
      const deposits = { type: 'level', amount: 100_000, count: 3 } as const;
      const schedule = buildFundSchedule(plainFund('10', { compounding, deposits }));
      return explainFundFigure(schedule, 2, 'interest').steps.map(({ label, link }) => [
        label.replace(/ \(.*/, ''),
        link && 'key' in link ? link.key : undefined,
      ]);
    };
    const days = ['Days counted', undefined];
    expect(told('each-payment')).toEqual([
      ['Balance', undefined],
      ['× annual rate', 'rate'],
      ['× share of the year', 'dayCount'],
      days,
    ]);
    expect(told('simple')[0]).toEqual(['Paid in; interest earns none', undefined]);
    expect(told('annual').slice(1)).toEqual([
      [expect.stringMatching(/^× growth, compounded /), undefined],
      ['Annual rate', 'rate'],
      ['Share of the year', 'dayCount'],
      days,
    ]);
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
      expect(made.title).toBe(figure === 'outlay' ? 'Total outlay' : 'Net interest');
      expect(sumOf(made)).toBe(made.amount);
    }
  });
});
