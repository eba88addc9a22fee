import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatDay } from '../calendar/calendar-day.ts';
import { buildLoanSchedule } from '../loan/schedule/build-loan-schedule.ts';
import { arbitraryFundAsMade } from '../testing/arbitrary-fund.ts';
import { plainFund } from '../testing/plain-fund.ts';
import { day, thousand } from '../testing/plain-loan.ts';
import { buildFundSchedule } from './build-fund-schedule.ts';
import { balanceDays } from './fund-and-debt.ts';
import { fundAccrual, fundStanding } from './fund-entries.ts';
import { fundStart } from './fund-periods.ts';
import { fundPosition } from './fund-position.ts';
import { fundProofs } from './fund-proofs.ts';
import type { FundRow, FundSchedule } from './fund-schedule.ts';
import type { FundTerms, MadeDeposit } from './fund-terms.ts';

const made = (due: string, on = due, amount = 1000_00): MadeDeposit => ({
  due: day(due),
  on: day(on),
  amount,
});
const rowsOf = (rate: string, more: Partial<FundTerms>): readonly FundRow[] =>
  buildFundSchedule(plainFund(rate, more)).rows;
/** 1,000.00 each month from New Year 2026. */
const monthly: Partial<FundTerms> = {
  every: 'month',
  first: day('2026-01-01'),
  deposits: { type: 'level', amount: 1000_00, count: 4 },
};

// Nobody knows on the 5th what is made on the 11th (common practice).
describe('the next deposit', () => {
  it('is the one that is overdue, as it was agreed, until it is made', () => {
    const late = made('2026-02-01', '2026-02-11', 400_00);
    const fund = buildFundSchedule(plainFund('12', { ...monthly, made: [late] }));
    const next = (on: string): unknown => fundPosition(fund, day(on)).next;
    const overdue = { due: day('2026-02-01'), deposit: 1000_00 };
    for (const on of ['2026-01-31', '2026-02-01', '2026-02-05', '2026-02-10'])
      expect(next(on)).toEqual(overdue);
    expect(next('2026-02-11')).toEqual({ due: day('2026-03-01'), deposit: 1000_00 });
  });
});

describe('the days that a deposit earns', () => {
  // Even periods (common practice): a period of its own days counts back from its end, the days that remain as their share.
  it('are a regular period, but where it was made on another day', () => {
    const interest = (...deposits: MadeDeposit[]): number[] =>
      rowsOf('12', { ...monthly, made: deposits }).map((row) => row.interest);
    expect(interest()).toEqual([0, 10_00, 20_10, 30_30]);
    expect(interest(made('2026-02-01'))).toEqual([0, 10_00, 20_10, 30_30]);
    // To 11 February: ten of the 31 days from 11 December, and a month. From there to 1 March: 18 of 28 days.
    const late = Math.round(10_00 * (1 + 10 / 31));
    const after = Math.round(((2000_00 + late) * 0.01 * 18) / 28);
    const last = Math.round((3000_00 + late + after) * 0.01);
    expect(interest(made('2026-02-01', '2026-02-11'))).toEqual([0, late, after, last]);
  });

  it('are those between listed days', () => {
    const list = [
      { on: day('2025-01-31'), amount: 1000_00 },
      { on: day('2025-07-31'), amount: 0 },
    ];
    const rows = rowsOf('10', { dayCount: 'ACT/365F', deposits: { type: 'listed', list } });
    expect(rows.map((row) => row.interest)).toEqual([0, Math.round((100_00 * 181) / 365)]);
    const even = rowsOf('10', { deposits: { type: 'listed', list } });
    expect(even[1]?.interest).toBe(Math.round((100_00 * 181) / 365));
  });

  it('begin with what is held, or with the first deposit as it is made', () => {
    const start = (more: Partial<FundTerms>): string =>
      formatDay(fundStart(plainFund('1', { ...monthly, ...more })));
    expect(start({})).toBe('2026-01-01');
    expect(start({ made: [made('2026-02-01', '2026-02-11')] })).toBe('2026-01-01');
    expect(start({ made: [made('2026-02-01', '2026-02-11'), made('2026-01-01', '2026-01-11')] })).toBe(
      '2026-01-11',
    );
    expect(
      start({ opening: { on: day('2025-12-01'), amount: 5 }, made: [made('2026-01-01', '2026-01-11')] }),
    ).toBe('2025-12-01');
    const list = [{ on: day('2026-03-31'), amount: 5 }];
    expect(start({ deposits: { type: 'listed', list } })).toBe('2026-03-31');
  });

  // A deposit stands after the one before it, of which there is none before the first of one.
  it('may begin early, but not before the deposit that comes before', () => {
    expect(rowsOf('0', { ...monthly, made: [made('2026-02-01', '2026-01-02')] })[1]?.due).toBe(
      day('2026-01-02'),
    );
    const alone = (on: string): Partial<FundTerms> => ({
      deposits: { type: 'level', amount: 1000_00, count: 1 },
      made: [made('2025-01-31', on)],
    });
    expect(rowsOf('0', alone('2024-01-31'))[0]?.due).toBe(day('2024-01-31'));
    expect(() => rowsOf('0', alone('2024-01-30'))).toThrow('comes before it');
    expect(rowsOf('0', alone('2030-01-31'))[0]?.due).toBe(day('2030-01-31'));
  });
});

describe('a fund on a day', () => {
  const fund = buildFundSchedule(
    plainFund('4', {
      every: 'quarter',
      dayCount: 'ACT/365F',
      first: day('2026-01-01'),
      opening: { on: day('2025-12-01'), amount: 500_00 },
      goal: 2512_00,
      deposits: { type: 'level', amount: 1000_00, count: 2 },
    }),
  );
  const at = (on: string): unknown[] => {
    const { balance, accruedInterest, deposited, earned, toGoal, next } = fundPosition(fund, day(on));
    return [balance, accruedInterest, deposited, earned, toGoal, next && formatDay(next.due)];
  };
  /** Interest of so many days on an amount at 4 % over 365. */
  const of = (amount: number, days: number): number => Math.round((amount * 0.04 * days) / 365);
  const [first, second] = [of(500_00, 31), of(1500_00 + of(500_00, 31), 90)];

  it('has earned since the last deposit, from the day after it to the day before the next', () => {
    expect(at('2025-11-30')).toEqual([0, 0, 0, 0, 2512_00, '2026-01-01']);
    expect(at('2025-12-01')).toEqual([500_00, 0, 500_00, 0, 2012_00, '2026-01-01']);
    expect(at('2025-12-31')).toEqual([500_00, of(500_00, 30), 500_00, 0, 2012_00, '2026-01-01']);
    const held = 1500_00 + first;
    expect(at('2026-01-01')).toEqual([held, 0, 1500_00, first, 2512_00 - held, '2026-04-01']);
    expect(at('2026-01-02')).toEqual([held, of(held, 1), 1500_00, first, 2512_00 - held, '2026-04-01']);
    expect(at('2026-03-31')).toEqual([held, of(held, 89), 1500_00, first, 2512_00 - held, '2026-04-01']);
    expect(at('2026-04-01').slice(0, 2)).toEqual([0, 0]);
    expect(at('2026-04-01').slice(3)).toEqual([first + second, 0, null]);
    expect(at('2026-05-01').slice(0, 2)).toEqual([0, 0]);
  });

  it('without a goal lacks nothing, and has reached what it comes to', () => {
    const open = buildFundSchedule(plainFund('0', { deposits: { type: 'level', amount: 5, count: 2 } }));
    expect(fundPosition(open, day('2025-02-01')).toGoal).toBe(0);
    expect(open.reached).toBe(day('2026-01-31'));
  });

  it('stands in the accounts by what falls on the day or before it', () => {
    const standing = (on: string): unknown => Object.fromEntries(fundStanding(fund, day(on)));
    const none = { 'sinking-fund': 0, 'interest-income': 0, cash: 0, 'opening-balances': 0 };
    expect(standing('2025-11-30')).toEqual(none);
    expect(standing('2025-12-01')).toEqual({ ...none, 'sinking-fund': 500_00, 'opening-balances': -500_00 });
    expect(standing('2025-12-31')).toEqual(standing('2025-12-01'));
    expect(standing('2026-01-01')).toEqual({
      'sinking-fund': 1500_00 + first,
      'interest-income': -first,
      cash: -1000_00,
      'opening-balances': -500_00,
    });
    expect(standing('2026-04-01')).toMatchObject({ 'sinking-fund': 0, 'opening-balances': -500_00 });
    expect(standing('2026-04-30')).toEqual(standing('2026-04-01'));
    expect(fundAccrual(fund, day('2025-11-30'))).toBeUndefined();
    expect(fundAccrual(fund, day('2025-12-01'))).toBeUndefined();
    expect(fundAccrual(fund, day('2025-12-31'))?.lines[0]?.debit).toBe(of(500_00, 30));
  });
});

describe('how a fund is worked out', () => {
  // 1 + 1.1 + 1.2 times the deposit, where interest earns none.
  it('solves a deposit by simple interest too', () => {
    const simple = buildFundSchedule(
      plainFund('10', { compounding: 'simple', goal: 330_00, deposits: { type: 'level', count: 3 } }),
    );
    expect(simple.deposit).toBe(100_00);
  });

  it('ends with the deposit that just reaches the goal', () => {
    const deposits = rowsOf('0', { goal: 500, deposits: { type: 'level', amount: 250, count: 10 } });
    expect(deposits.map(({ deposit }) => deposit)).toEqual([250, 250]);
  });

  it('refuses what could not be kept exactly', () => {
    expect(() => rowsOf('0', { deposits: { type: 'level', amount: 2 ** 52, count: 3 } })).toThrow(/exact/);
  });

  it('stands within cents of itself rounded, where it is not rounded', () => {
    const rounded = { interest: 'cent', deposit: 'cent', ties: 'away-from-zero' } as const;
    fc.assert(
      fc.property(arbitraryFundAsMade, fc.constantFrom('none', 'cent'), (terms, deposit) => {
        const exact = buildFundSchedule({
          ...terms,
          rounding: { ...rounded, interest: 'none', deposit },
        }).rows;
        buildFundSchedule({ ...terms, rounding: rounded })
          .rows.slice(0, 10)
          .forEach((row, at) => {
            const beside = exact[at];
            if (!beside || at + 1 >= exact.length) return;
            for (const key of ['interest', 'deposit', 'closing'] as const)
              expect(Math.abs(row[key] - beside[key]), `${key} of row ${at}`).toBeLessThan(
                100 + row.closing / 1e9,
              );
          });
      }),
    );
    const list = [
      { on: day('2025-01-31'), amount: 123_45 },
      { on: day('2026-01-31'), amount: 543_21 },
    ];
    const listed = rowsOf('5', {
      deposits: { type: 'listed', list },
      rounding: { ...rounded, interest: 'none' },
    });
    expect(listed.map(({ deposit }) => deposit)).toEqual([123_45, 543_21]);
  });

  it('fails a proof where what it computed with is off by the least amount, up or down', () => {
    const keys = fc.constantFrom('opening', 'interest', 'deposit', 'closing' as const);
    fc.assert(
      fc.property(arbitraryFundAsMade, fc.nat(), keys, fc.constantFrom(1n, -1n), (terms, place, key, by) => {
        const schedule = buildFundSchedule(terms);
        const rows = schedule.rows.map((row, at) =>
          at === place % schedule.rows.length
            ? { ...row, exact: { ...row.exact, [key]: row.exact[key as 'opening'] + by } }
            : row,
        );
        const failed = fundProofs({ ...schedule, rows }).filter(({ holds }) => !holds);
        expect(failed.length).toBeGreaterThan(0);
      }),
    );
  });

  it('has a proof of its goal where it has one, short of it or beyond', () => {
    const list = [200, 400].map((amount, at) => ({ on: day(`${2025 + at}-01-31`), amount }));
    const proofs = (fund: FundSchedule): [number, number] => [
      fundProofs(fund).length,
      fundProofs(fund).filter(({ holds }) => holds).length,
    ];
    const listed = (goal?: number): FundSchedule =>
      buildFundSchedule(
        plainFund('50', { deposits: { type: 'listed', list }, ...(goal !== undefined && { goal }) }),
      );
    expect(proofs(listed())).toEqual([6, 6]);
    // 200 + 100 + 400 are 700; 250 are passed by the interest of the first year.
    for (const goal of [701, 700, 250]) expect(proofs(listed(goal))).toEqual([7, 7]);
    const short = listed(701);
    expect(proofs({ ...short, notices: [] })).toEqual([7, 6]);
  });

  it('knows the days on which what is owed changes', () => {
    const debt = buildLoanSchedule(thousand([{ type: 'equal-principal', count: 2 }]));
    expect(balanceDays(debt).map(formatDay)).toEqual(['2025-01-01', '2025-02-01', '2025-03-01']);
  });
});
