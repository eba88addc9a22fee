import { Decimal } from 'decimal.js';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arbitraryBondWithEvents } from '../testing/arbitrary-bond.ts';
import { accrualChoices } from '../entries/accruals.ts';
import { entries } from '../entries/entries.ts';
import { periodEnds, periodLengths } from '../entries/period-ends.ts';
import { explainFundFigure, type FundFigure } from './explain-fund.ts';
import { buildSchedule, firstDay, lastDay } from '../instrument/instrument.ts';
import { arbitraryLoanWithEvents } from '../testing/arbitrary-loan.ts';
import { day, level, percent, plainLoan } from '../testing/plain-loan.ts';
import { position } from '../position/position.ts';
import { arbitraryFund, arbitraryFundAsMade } from '../testing/arbitrary-fund.ts';
import { buildFundSchedule } from './build-fund-schedule.ts';
import { fundAndDebt, netDebt } from './fund-and-debt.ts';
import { fundPosition } from './fund-position.ts';
import { fundProofs } from './fund-proofs.ts';
import { fundEnd, fundHeld, fundTotal, type FundRow } from './fund-schedule.ts';
import type { FundTerms } from './fund-terms.ts';
import { levelDeposit } from './level-deposit.ts';
import { plainFund } from '../testing/plain-fund.ts';

// Standard compound-interest tables, amount of an ordinary annuity of 1 (Kieso, Weygandt, Warfield, Intermediate
// Accounting, five decimals); figures from memory, reproduced by computation.
const amounts: readonly (readonly [rate: string, count: number, amount: string])[] = [
  ['5', 10, '12.57789'],
  ['10', 5, '6.10510'],
  ['6', 10, '13.18079'],
  ['8', 10, '14.48656'],
  ['10', 10, '15.93742'],
  ['4', 10, '12.00611'],
  ['12', 5, '6.35285'],
  ['10', 20, '57.27500'],
  ['5', 20, '33.06595'],
  ['6', 20, '36.78559'],
  ['8', 20, '45.76196'],
  ['3', 10, '11.46388'],
  ['12', 10, '17.54874'],
  ['8', 5, '5.86660'],
  ['6', 5, '5.63709'],
];

// Sinking fund factors A/F (engineering-economy tables: Park; Newnan; Blank and Tarquin); from memory, reproduced.
const sinkingFundFactors: typeof amounts = [
  ['5', 10, '0.07950'],
  ['6', 10, '0.07587'],
  ['8', 10, '0.06903'],
  ['10', 10, '0.06275'],
  ['10', 5, '0.16380'],
  ['12', 10, '0.05698'],
  ['8', 5, '0.17046'],
  ['10', 20, '0.01746'],
  ['6', 20, '0.02718'],
  ['8', 20, '0.02185'],
];

// Present worth of an arithmetic gradient of 1, P/G (the same tables); from memory, reproduced.
const gradients: typeof amounts = [
  ['10', 10, '22.8913'],
  ['10', 5, '6.8618'],
  ['8', 10, '25.9768'],
  ['12', 10, '20.2541'],
];

describe('published tables', () => {
  it.each(amounts)('at %s %% over %i periods deposits of 1 amount to %s', (rate, count, amount) => {
    const deposits = { type: 'level', amount: 100_000_000, count } as const;
    const schedule = buildFundSchedule(plainFund(rate, { deposits }));
    expect(fundHeld(schedule) / 100_000_000).toBeCloseTo(Number(amount), 5);
    expect(schedule.solved?.unknown).toBe('goal');
  });

  it.each(sinkingFundFactors)(
    'at %s %% over %i periods the sinking fund factor is %s',
    (rate, count, factor) => {
      const exact = levelDeposit(plainFund(rate, {}), 1, count);
      expect(exact.toDecimalPlaces(5).toFixed(5)).toBe(factor);
      // Capital recovery is the sinking fund factor and the rate (Kellison, The Theory of Interest, section 6.4).
      const i = new Decimal(rate).div(100);
      const annuity = new Decimal(1).minus(i.plus(1).pow(-count)).div(i);
      expect(exact.plus(i).minus(annuity.pow(-1)).abs().lt('1e-18')).toBe(true);
    },
  );

  it.each(gradients)('at %s %% over %i periods growing deposits are worth %s', (rate, count, worth) => {
    const list = Array.from({ length: count }, (_, year) => ({
      on: day(`${2025 + year}-01-31`),
      amount: year * 100_000_000,
    }));
    const held = fundHeld(buildFundSchedule(plainFund(rate, { deposits: { type: 'listed', list } })));
    const growth = (1 + Number(rate) / 100) ** count;
    expect(held / 100_000_000 / growth).toBeCloseTo(Number(worth), 4);
  });
});

const figures: readonly FundFigure[] = ['opening', 'interest', 'deposit', 'closing'];

describe('any fund', () => {
  it('ends exactly on its goal, has proofs that hold, and explains every figure', () => {
    fc.assert(
      fc.property(arbitraryFund, (terms) => {
        const schedule = buildFundSchedule(terms);
        const [over] = schedule.notices.flatMap((notice) =>
          notice.kind === 'passed-by-interest' ? [notice.amount] : [],
        );
        expect(fundHeld(schedule) - (over ?? 0)).toBe(terms.goal);
        expect(fundProofs(schedule).filter(({ holds }) => !holds)).toEqual([]);
        for (const [index, row] of schedule.rows.entries()) {
          for (const figure of figures) {
            expect(explainFundFigure(schedule, index, figure).amount).toBe(row[figure]);
          }
        }
      }),
    );
  });

  it('has, with deposits as they were made, proofs that hold and figures that explain themselves', () => {
    fc.assert(
      fc.property(arbitraryFundAsMade, (terms) => {
        const schedule = buildFundSchedule(terms);
        expect(fundProofs(schedule).filter(({ holds }) => !holds)).toEqual([]);
        for (const [index, row] of schedule.rows.entries()) {
          for (const figure of figures) {
            expect(explainFundFigure(schedule, index, figure).amount).toBe(row[figure]);
          }
        }
        expect(schedule.deposit).toBe(buildFundSchedule({ ...terms, made: [] }).deposit);
        for (const { due, on, amount } of terms.made ?? []) {
          const row = schedule.rows.find(({ agreed }) => agreed === due);
          if (row) expect([row.due, row.deposit]).toEqual([on, amount]);
        }
      }),
    );
  });

  // 1,000 a quarter at 4 % ACT/365F: 1,000 × 4 % × 90 ÷ 365 = 9.86 to 1 April. Ten days late it earns 80 days, 8.77.
  it('earns on a deposit from the day it was made, and takes what was made in place of what was agreed', () => {
    const terms = plainFund(percent('4'), {
      every: 'quarter',
      dayCount: 'ACT/365F',
      first: day('2026-01-01'),
      goal: 100_000_00,
      deposits: { type: 'level', amount: 1000_00 },
    });
    const rows = (made: FundTerms['made'] = []): readonly FundRow[] =>
      buildFundSchedule({ ...terms, made }).rows;
    const [first, second] = rows();
    expect([first?.due, second?.due, second?.interest]).toEqual([day('2026-01-01'), day('2026-04-01'), 986]);
    const [late, next] = rows([{ due: day('2026-01-01'), on: day('2026-01-11'), amount: 1000_00 }]);
    expect([late?.agreed, late?.due, next?.interest]).toEqual([day('2026-01-01'), day('2026-01-11'), 877]);
    const [, short] = rows([{ due: day('2026-04-01'), on: day('2026-04-01'), amount: 400_00 }]);
    expect([short?.deposit, short?.closing]).toEqual([400_00, 1000_00 + 986 + 400_00]);
    // Made no sooner than the one before it, and before the one after.
    const made = (on: string): FundTerms['made'] => [
      { due: day('2026-04-01'), on: day(on), amount: 1000_00 },
    ];
    expect(() => rows(made('2026-01-01'))).toThrow(/is not after/);
    expect(() => rows(made('2026-07-01'))).toThrow(/is not before the deposit of/);
    const early = (on: string): FundTerms['made'] => [
      { due: day('2026-01-01'), on: day(on), amount: 1000_00 },
    ];
    expect(rows(early('2025-10-03'))[0]?.due).toBe(day('2025-10-03'));
    expect(() => rows(early('2025-10-01'))).toThrow(/comes before it/);
  });

  it('ends with the first deposit that reaches the goal', () => {
    fc.assert(
      fc.property(arbitraryFund, (terms) => {
        const { rows, deposit } = buildFundSchedule(terms);
        for (const row of rows.slice(0, -1)) expect(row.closing).toBeLessThan(terms.goal ?? 0);
        if (terms.deposits.type === 'level' && terms.deposits.count === undefined) {
          expect(rows.at(-1)?.deposit).toBeLessThanOrEqual(deposit ?? 0);
        }
      }),
    );
  });

  it('fails a proof on any cent that is changed', () => {
    fc.assert(
      fc.property(arbitraryFund, fc.nat(), fc.constantFrom(...figures), (terms, at, figure) => {
        const schedule = buildFundSchedule(terms);
        const place = at % schedule.rows.length;
        const rows = schedule.rows.map((row, index) =>
          index === place ? { ...row, [figure]: row[figure] + 1 } : row,
        );
        expect(fundProofs({ ...schedule, rows }).some(({ holds }) => !holds)).toBe(true);
      }),
    );
  });

  it('returns its account to zero, and earns what its rows and accruals say over any cut', () => {
    const anyPeriods = fc.constantFrom(...periodLengths);
    const cut = fc.tuple(
      arbitraryFundAsMade,
      anyPeriods,
      fc.nat({ max: 400 }),
      fc.constantFrom(...accrualChoices),
    );
    fc.assert(
      fc.property(cut, ([terms, periods, ahead, accruals]) => {
        const schedule = buildFundSchedule(terms);
        const from = firstDay(schedule) - ahead;
        const through = fundEnd(schedule) + 400;
        const balance = (until: number, role: string): number =>
          entries(schedule, from, until, periods, accruals)
            .flatMap(({ lines }) => lines)
            .reduce((sum, line) => sum + (line.account === role ? line.debit - line.credit : 0), 0);
        expect(balance(through, 'sinking-fund')).toBe(0);
        expect(balance(through, 'interest-income') + fundTotal(schedule, 'interest')).toBe(0);
        const brought = terms.opening?.amount ?? 0;
        expect(balance(through, 'cash')).toBe(fundTotal(schedule, 'interest') + brought);
        // Each is worked out from the beginning.
        const some = periodEnds(periods, from, through).filter((_, at) => at < 30 && at % 4 === 0);
        for (const end of some) {
          const { balance: held, accruedInterest } = fundPosition(schedule, end);
          expect(balance(end, 'sinking-fund')).toBe(held + accruedInterest);
        }
      }),
      { numRuns: 40 },
    );
  });
});

describe('rounding', () => {
  // What a deposit of 100 at the end of each month gathers at 0.75 %: the amount of an annuity (Kellison, section 3.2).
  it('is left out where full precision is agreed, in the last deposit and in what fund and debt come to', () => {
    const unrounded = buildFundSchedule(
      plainFund('9', {
        every: 'month',
        first: day('2025-02-01'),
        goal: 1_000_000,
        deposits: { type: 'level', amount: 10_000 },
        rounding: { interest: 'none', deposit: 'none', ties: 'away-from-zero' },
      }),
    );
    const gathered = 100 * ((1.0075 ** 74 - 1) / 0.0075);
    expect(unrounded.rows).toHaveLength(75);
    expect(unrounded.rows[74]?.deposit).toBe(Math.round((10_000 - gathered * 1.0075) * 100));
    expect(unrounded.rows[74]?.deposit).toBe(8_167);
    const debt = buildSchedule(
      plainLoan([{ type: 'interest-only', count: 75 }], {
        amount: 1_000_000,
        annualRate: percent('15'),
        start: day('2025-01-01'),
        first: day('2025-02-01'),
      }),
    );
    expect(fundAndDebt(unrounded, debt).outlay).toBe(1_685_667);
  });

  it('of a half goes as the terms say, in a deposit that is solved too', () => {
    const even = { interest: 'cent', deposit: 'cent', ties: 'even' } as const;
    const solved = (goal: number): number | null =>
      buildFundSchedule(plainFund('0', { goal, deposits: { type: 'level', count: 2 }, rounding: even }))
        .deposit;
    expect([solved(25), solved(27)]).toEqual([12, 14]);
  });

  it('a first period from 31 January to 28 February is a whole one', () => {
    const opened = buildFundSchedule(
      plainFund('12', {
        every: 'month',
        first: day('2025-02-28'),
        opening: { on: day('2025-01-31'), amount: 100_000 },
        deposits: { type: 'level', amount: 1_000, count: 2 },
      }),
    );
    expect(opened.rows[0]?.interest).toBe(1_000);
  });
});

describe('a fund that cannot be as stated', () => {
  it('says what would do', () => {
    const slow = plainFund('0', { goal: 100_000_000, deposits: { type: 'level', amount: 50_000 } });
    expect(() => buildFundSchedule(slow)).toThrow('the least deposit that reaches it by then is 833.34');
    const grown = plainFund('10', { goal: 1_000_000, opening: { on: day('2024-01-31'), amount: 990_000 } });
    expect(() => buildFundSchedule(grown)).toThrow('grows to the goal by itself');
    expect(() => buildFundSchedule(plainFund('5', { goal: 100, deposits: { type: 'level' } }))).toThrow(
      'Give the deposit or the count',
    );
    expect(() => buildFundSchedule(plainFund('5', {}))).toThrow('give both the deposit and the count');
  });

  it('tells by how much listed deposits fall short, and leaves out those the goal does not need', () => {
    const list = [1, 2, 3].map((year) => ({ on: day(`202${year}-06-30`), amount: 100_000 }));
    const deposits = { type: 'listed', list } as const;
    const short = buildFundSchedule(plainFund('0', { goal: 500_000, deposits }));
    expect([short.reached, short.notices]).toEqual([
      undefined,
      [{ kind: 'short', on: day('2023-06-30'), amount: 200_000 }],
    ]);
    const early = buildFundSchedule(plainFund('0', { goal: 150_000, deposits }));
    expect(early.rows.map(({ deposit }) => deposit)).toEqual([100_000, 50_000]);
    expect(early.notices).toEqual([{ kind: 'reached-early', on: day('2022-06-30'), deposits: 1 }]);
  });
});

describe('a fund beside the debt it repays', () => {
  // Interest only, with deposits into a fund that repays the principal: what is paid is the interest and the deposits
  // (Kellison, The Theory of Interest, section 6.4).
  it('leaves nothing owed, and an outlay of interest and deposits', () => {
    const debt = buildSchedule(plainLoan([{ type: 'interest-only', count: 60 }]));
    const repaying = plainFund('3', {
      goal: 10_000_000,
      every: 'month',
      first: day('2024-02-15'),
      deposits: { type: 'level', count: 60 },
    });
    const schedule = buildFundSchedule(repaying);
    const sums = fundAndDebt(schedule, debt);
    expect(sums.fundEnds).toBe(sums.debtEnds);
    expect(sums.debtInterest).toBe(60 * 50_000);
    expect(sums.outlay).toBe(60 * 50_000 + fundTotal(schedule, 'deposit'));
    expect(sums.netInterest).toBe(sums.outlay - 10_000_000);
    expect(netDebt(schedule, debt, sums.fundEnds)).toEqual({ owed: 0, held: 0, net: 0 });
    const half = schedule.rows[29];
    expect(netDebt(schedule, debt, half?.due ?? 0).net).toBe(10_000_000 - (half?.closing ?? 0));
  });

  it('counts as owed what the position of any debt does, and as paid all that leaves through cash', () => {
    const anyDebt = fc
      .oneof(arbitraryLoanWithEvents, arbitraryBondWithEvents)
      .map((terms) => buildSchedule(terms));
    const repaying = buildFundSchedule(plainFund('2', { goal: 1_000_000 }));
    fc.assert(
      fc.property(anyDebt, fc.double({ min: -0.1, max: 1.1, noNaN: true }), (debt, share) => {
        const [from, to] = [firstDay(debt), lastDay(debt)];
        const on = Math.round(from + share * (to - from));
        expect(netDebt(repaying, debt, on).owed).toBe(position(debt, on).outstanding);
        const cash = entries(debt, from, to, 'none')
          .flatMap(({ lines }) => lines)
          .filter(({ account }) => account === 'cash');
        const paid = cash.reduce((sum, { credit }) => sum + credit, 0);
        const costs = debt.terms.issueCosts?.amount ?? 0;
        // Where a loan rounds nothing, its totals are rounded apart from the entries: payments, extra, and fees.
        const apart = debt.kind !== 'bond' && Object.values(debt.terms.rounding).includes('none') ? 2 : 0;
        expect(fundAndDebt(repaying, debt).paidOnDebt).toBeLessThanOrEqual(paid + costs + apart);
      }),
      { numRuns: 60 },
    );
  });

  // At one rate for both, the outlay is the level payment of an amortizing loan (the same section).
  it('at the rate of the debt costs what levelling would', () => {
    const levelled = buildSchedule(plainLoan([level(60)]));
    const payment = levelled.kind !== 'bond' ? (levelled.payment[0] as number) : 0;
    const repaying = { goal: 10_000_000, every: 'month', first: day('2024-02-15') } as const;
    const deposit = levelDeposit(plainFund('6', repaying), 10_000_000, 60);
    expect(Math.round(deposit.toNumber() + 50_000)).toBe(payment);
    expect(position(levelled, day('2029-01-15')).outstanding).toBe(0);
  });
});
