import { describe, expect, it } from 'vitest';
import { TermsFault } from '../faults/terms-fault.ts';
import { plainFund } from '../testing/plain-fund.ts';
import { day } from '../testing/plain-loan.ts';
import { buildFundSchedule } from './build-fund-schedule.ts';
import { fundPosition } from './fund-position.ts';
import { fundHeld } from './fund-schedule.ts';
import type { FundTerms } from './fund-terms.ts';

const first = day('2025-01-31');
const refused = (more: Partial<FundTerms>, rate = '0'): string => {
  try {
    buildFundSchedule(plainFund(rate, more));
  } catch (error) {
    if (error instanceof TermsFault) return `${error.key}: ${error.message}`;
    throw error;
  }
  return '';
};
const listed = (...amounts: number[]): FundTerms['deposits'] => ({
  type: 'listed',
  list: amounts.map((amount, at) => ({ on: day(`${2025 + at}-01-31`), amount })),
});

describe('terms of a fund', () => {
  it('open with what is held on a day before the first deposit, and less than the goal', () => {
    const opening = (on: number, amount: number): Partial<FundTerms> => ({
      opening: { on, amount },
      goal: 1_000,
    });
    expect(refused(opening(first - 1, 999))).toBe('');
    expect(refused(opening(first, 999))).toBe(
      'opening.on: The opening balance must stand before the first deposit, 2025-01-31.',
    );
    expect(refused(opening(first - 1, 1_000))).toBe('opening.amount: The fund holds its goal already.');
    expect(
      refused({
        opening: { on: first - 1, amount: 5_000 },
        deposits: { type: 'level', amount: 1, count: 2 },
      }),
    ).toBe('');
  });

  it('leave one of deposit, count and goal open, and no more', () => {
    const deposits = (more: object): Partial<FundTerms> => ({ deposits: { type: 'level', ...more } });
    expect(refused({ ...deposits({}), goal: 1_000 })).toMatch(/^deposit: Give the deposit or the count/);
    expect(refused(deposits({ count: 3 }))).toMatch(/^goal: To work out the goal/);
    expect(refused(deposits({ amount: 3 }))).toMatch(/^goal: To work out the goal/);
    expect(refused(deposits({ amount: 3, count: 3 }))).toBe('');
  });

  it('list deposits that follow one another', () => {
    const on = (...days: number[]): Partial<FundTerms> => ({
      deposits: { type: 'listed', list: days.map((each) => ({ on: each, amount: 5 })) },
    });
    expect(refused(on(first, first + 1))).toBe('');
    expect(refused(on(first, first))).toMatch(/^deposits\.1\.on: Listed deposits follow one another/);
    expect(refused(on())).toBe('deposits: List at least one deposit.');
  });

  it('name the least deposit that reaches a goal which is never reached', () => {
    // 1,200 deposits of 0.01 are 12.00; 100.00 in 1,200 deposits takes 0.0833…, so 0.09.
    const message = refused({ goal: 10_000, deposits: { type: 'level', amount: 1 } });
    expect(message).toBe(
      'deposit: After 1200 deposits the fund would hold 12.00, not the goal of 100.00; the least deposit that reaches it by then is 0.09.',
    );
  });
});

describe('how a fund ends', () => {
  const made = (more: Partial<FundTerms>, rate = '0'): ReturnType<typeof buildFundSchedule> =>
    buildFundSchedule(plainFund(rate, more));

  it('on its goal exactly: reached on the last day, nothing to say', () => {
    const { reached, notices, rows } = made({ goal: 600, deposits: listed(200, 400) });
    expect([reached, notices, rows.map(({ n, deposit }) => [n, deposit])]).toEqual([
      day('2026-01-31'),
      [],
      [
        [1, 200],
        [2, 400],
      ],
    ]);
  });

  it('short of its goal: by how much', () => {
    const { reached, notices } = made({ goal: 601, deposits: listed(200, 400) });
    expect([reached, notices]).toEqual([undefined, [{ kind: 'short', on: day('2026-01-31'), amount: 1 }]]);
  });

  it('before its deposits do: the last is cut, and how many are not needed', () => {
    const { notices, rows } = made({ goal: 500, deposits: { type: 'level', amount: 300, count: 10 } });
    expect(rows.map(({ deposit }) => deposit)).toEqual([300, 200]);
    expect(notices).toEqual([{ kind: 'reached-early', on: day('2026-01-31'), deposits: 8 }]);
    // Where the count was left open, ending early is what was asked for.
    expect(made({ goal: 500, deposits: { type: 'level', amount: 300 } }).notices).toEqual([]);
  });

  it('beyond its goal by interest: nothing more is paid in', () => {
    const { notices, rows } = made({ goal: 1_000, deposits: listed(990, 500) }, '50');
    expect(rows.map(({ interest, deposit, closing }) => [interest, deposit, closing])).toEqual([
      [0, 990, 990],
      [495, 0, 1_485],
    ]);
    expect(notices).toEqual([{ kind: 'passed-by-interest', on: day('2026-01-31'), amount: 485 }]);
  });

  it('says what was worked out, unrounded', () => {
    expect(made({ goal: 100_000, deposits: { type: 'level', count: 3 } }).solved).toEqual({
      unknown: 'deposit',
      value: `333.${'3'.repeat(27)}`,
    });
    expect(made({ goal: 1_000, deposits: { type: 'level', amount: 300 } }).solved).toEqual({
      unknown: 'count',
      value: '4',
    });
    expect(made({ deposits: { type: 'level', amount: 300, count: 2 } }).solved).toEqual({
      unknown: 'goal',
      value: '6.00',
    });
    expect(made({ goal: 600, deposits: { type: 'level', amount: 300, count: 2 } }).solved).toBeUndefined();
  });

  // Simple interest is earned on what was paid in, compound on what is held (any textbook of financial mathematics).
  it.each([
    ['simple', [0, 10_000, 20_000], 330_000],
    ['each-payment', [0, 10_000, 21_000], 331_000],
  ] as const)('earns %s interest', (compounding, interest, held) => {
    const schedule = made({ compounding, deposits: { type: 'level', amount: 100_000, count: 3 } }, '10');
    expect(schedule.rows.map((row) => row.interest)).toEqual(interest);
    expect(fundHeld(schedule)).toBe(held);
  });

  it('rounds a half of what was solved to even where that is agreed, else up', () => {
    // 0.25 in two deposits is 0.125 each.
    const half = (ties: FundTerms['rounding']['ties']): number | null =>
      made({
        goal: 25,
        deposits: { type: 'level', count: 2 },
        rounding: { interest: 'cent', deposit: 'cent', ties },
      }).deposit;
    expect([half('even'), half('away-from-zero')]).toEqual([12, 13]);
  });

  it('stands at nothing before it begins, at what it holds from each deposit on, and at nothing once it has paid out', () => {
    const schedule = made({ goal: 600, deposits: listed(200, 400) });
    const held = (on: number): number => fundPosition(schedule, on).balance;
    expect([held(first - 1), held(first), held(day('2026-01-30'))]).toEqual([0, 200, 200]);
    expect(fundPosition(schedule, first)).toMatchObject({
      deposited: 200,
      earned: 0,
      toGoal: 400,
      next: { due: day('2026-01-31'), deposit: 400 },
    });
  });
});
