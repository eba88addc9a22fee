import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addMonths, formatDay } from '../calendar/calendar-day.ts';
import { ratio, ratioToDecimal, ratioToNumber } from '../money/ratio.ts';
import { loanPosition } from './position/loan-position.ts';
import { growthOver } from '../rates/compounding.ts';
import type { RateIndex } from '../rates/rate-index.ts';
import { buildLoanSchedule } from './schedule/build-loan-schedule.ts';
import type { LoanEvent } from './terms/loan-events.ts';
import { loanRows, type LoanRow } from './schedule/loan-schedule.ts';
import type { LoanTerms, Phase } from './terms/loan-terms.ts';
import { solveUnknown } from './terms/solve-unknown.ts';
import { day, failing, level, percent, plainLoan, rowsOf } from '../testing/plain-loan.ts';

describe('compounding', () => {
  // Interest Act (Canada) s. 6, nominal rates compounded half-yearly not in advance: monthly equivalents, percent;
  // figures from memory, reproduced by computation.
  it.each([
    ['6', '0.4938622'],
    ['5', '0.4123915'],
    ['8', '0.6558197'],
    ['4', '0.3305890'],
    ['7', '0.5750039'],
  ])('half-yearly at %s %% is %s %% a month', (rate, monthly) => {
    const growth = growthOver(percent(rate), 'half-yearly', { num: 1, den: 12 });
    expect((ratioToNumber(growth) * 100).toFixed(7)).toBe(monthly);
  });

  // Kellison, The Theory of Interest, sections 1.8 and 1.9: effective rates equivalent to nominal ones; from memory.
  it.each([
    ['monthly', '12', '12.6825'],
    ['quarterly', '8', '8.2432'],
    ['daily', '10', '10.5155'],
    ['continuous', '10', '10.5170'],
    ['simple', '10', '10'],
  ] as const)('%s at %s %% is %s %% a year', (compounding, nominal, effective) => {
    const growth = growthOver(percent(nominal), compounding, { num: 1, den: 1 });
    expect(ratioToDecimal(ratio(growth.num * 100n, growth.den), 4).replace('…', '')).toBe(effective);
  });

  it('multiplies over any cut of a stretch of time', () => {
    const parts = fc.array(fc.integer({ min: 1, max: 400 }), { minLength: 2, maxLength: 5 });
    fc.assert(
      fc.property(parts, fc.constantFrom('annual', 'daily', 'continuous'), (days, compounding) => {
        const growth = (of: number): number => {
          const { num, den } = growthOver(percent('7.3'), compounding, { num: of, den: 365 });
          return 1 + Number((num * 10n ** 30n) / den) / 1e30;
        };
        const whole = growth(days.reduce((sum, each) => sum + each, 0));
        expect(days.reduce((product, each) => product * growth(each), 1)).toBeCloseTo(whole, 12);
      }),
    );
  });
});

describe('phases', () => {
  // Compound amount of 1 at 0.5 % over 12 periods, 1.061678 (standard tables, from memory): interest added each month.
  it('deferral with interest added grows as the compound amount does', () => {
    const [last] = rowsOf(
      plainLoan([{ type: 'no-payment', count: 12, interest: 'added-each-period', then: 'pay' }, level(60)]),
    ).slice(11);
    expect(Math.abs((last?.closing ?? 0) - 10_616_778)).toBeLessThanOrEqual(2);
    expect(last).toMatchObject({ payment: 0, unpaid: 0 });
  });

  it('deferral with interest kept apart earns nothing on it, and adds or pays it at the end', () => {
    const kept = (then: 'pay' | 'add-to-balance'): LoanRow[] =>
      rowsOf(plainLoan([{ type: 'no-payment', count: 3, interest: 'kept-apart', then }, level(12)]));
    expect(
      kept('pay')
        .slice(0, 3)
        .map(({ interest, unpaid, payment }) => [interest, unpaid, payment]),
    ).toEqual([
      [50_000, 50_000, 0],
      [50_000, 100_000, 0],
      [50_000, 0, 150_000],
    ]);
    expect(kept('add-to-balance')[2]).toMatchObject({ added: 150_000, closing: 10_150_000, unpaid: 0 });
  });

  // Annuity due: the ordinary payment discounted by one period (Kellison, section 3.3).
  it('payments in advance are the ordinary ones discounted by a period, the first all principal', () => {
    const due = rowsOf(plainLoan([level(360)], { due: 'start', first: day('2024-01-15') }));
    expect(due[0]).toMatchObject({ interest: 0, payment: Math.round(59_955.0525 / 1.005) });
    expect(due).toHaveLength(360);
    expect(due.at(-1)?.closing).toBe(0);
  });

  it('equal principal repays the same each time, interest falling by the same', () => {
    const rows = rowsOf(plainLoan([{ type: 'equal-principal', count: 10 }]));
    expect(rows.every(({ principal }) => principal === 1_000_000)).toBe(true);
    expect(rows.map(({ interest }) => interest)).toEqual(rows.map((_, at) => 50_000 - 5_000 * at));
  });

  // Interest first is the rule for what is due; what was kept apart is due only after the stretch, or with what is over.
  it('a payment above the balance pays interest that was kept apart, and no balance turns negative', () => {
    const loan = plainLoan(
      [{ type: 'no-payment', count: 11, interest: 'kept-apart', then: 'add-to-balance' }, level(1)],
      {
        amount: 100_000,
        events: [{ type: 'payment-change', on: day('2024-06-01'), payment: 101_000 }],
      },
    );
    const rows = rowsOf(loan);
    expect(Math.min(...rows.map(({ closing }) => closing))).toBe(0);
    expect(failing(loan)).toEqual([]);
    expect(rows.reduce((sum, { principal, extra }) => sum + principal + extra, 0)).toBe(100_000);
  });

  it('a payment agreed below the interest lets the balance grow, unless interest is simple', () => {
    const low: readonly Phase[] = [{ type: 'fixed', payment: 30_000, count: 2 }, level(12)];
    expect(rowsOf(plainLoan(low))[1]).toMatchObject({ added: 20_100, closing: 10_040_100, interest: 50_100 });
    expect(rowsOf(plainLoan(low, { compounding: 'simple' }))[1]).toMatchObject({
      interest: 50_000,
      unpaid: 40_000,
    });
  });

  it('listed payments fall on their days, and regular ones go on from the next of theirs', () => {
    const payments = [
      { on: day('2024-03-01'), amount: 1_000_000 },
      { on: day('2024-04-20'), amount: 2_000_000 },
    ];
    const rows = rowsOf(plainLoan([{ type: 'custom', payments }, level(3)], { dayCount: 'ACT/365F' }));
    expect(rows.map(({ due }) => formatDay(due))).toEqual([
      '2024-03-01',
      '2024-04-20',
      '2024-05-15',
      '2024-06-15',
      '2024-07-15',
    ]);
    // 46 days from 15 January to 1 March of a leap year.
    expect(rows[0]?.interest).toBe(Math.round((10_000_000 * 0.06 * 46) / 365));
  });

  it('what is left for renewal is renewed at its own rate, frequency and spread', () => {
    const renewal: LoanEvent = {
      type: 'renewal',
      on: day('2026-01-15'),
      annualRate: percent('5'),
      count: 8,
      amortizeOver: 40,
      every: 'quarter',
    };
    const rows = rowsOf(plainLoan([level(24, 300)], { atEnd: 'leave', events: [renewal] }));
    const left = rows[23]?.closing ?? 0;
    const fresh = rowsOf(
      plainLoan([level(8, 40)], {
        amount: left,
        start: day('2026-01-15'),
        first: day('2026-04-15'),
        every: 'quarter',
        annualRate: percent('5'),
        atEnd: 'leave',
      }),
    );
    expect(rows.slice(24).map(({ payment, closing }) => [payment, closing])).toEqual(
      fresh.map(({ payment, closing }) => [payment, closing]),
    );
  });

  it('an odd last period runs to its own day', () => {
    const rows = rowsOf(plainLoan([level(12)], { last: day('2025-01-31') }));
    expect(rows.at(-1)).toMatchObject({ due: day('2025-01-31'), closing: 0 });
    // 15 December to 15 January is one month, 16 days more are 16 of the 31 to 15 February.
    const opening = rows.at(-1)?.opening ?? 0;
    expect(rows.at(-1)?.interest).toBe(Math.round((opening * (1 + 16 / 31)) / 200));
  });
});

describe('rates', () => {
  const step = (
    from: string,
    rate: string,
    payment: 're-level' | 'keep',
  ): LoanTerms['rateSteps'][number] => ({
    from: day(from),
    annualRate: percent(rate),
    payment,
  });

  it('a step on a due date levels the payment as a new loan of what is left', () => {
    const rows = rowsOf(plainLoan([level(36)], { rateSteps: [step('2025-01-15', '7.5', 're-level')] }));
    const left = rows[11]?.closing ?? 0;
    const fresh = rowsOf(plainLoan([level(24)], { amount: left, annualRate: percent('7.5') }));
    expect(rows[12]?.payment).toBe(fresh[0]?.payment);
    expect(rows.at(-1)?.closing).toBe(0);
  });

  it('a step inside a period splits its interest by days, and a kept payment ends sooner or later', () => {
    const rows = rowsOf(plainLoan([level(36)], { rateSteps: [step('2024-01-25', '3', 'keep')] }));
    expect(rows[0]?.interest).toBe(Math.round((10_000_000 * (0.06 * 10 + 0.03 * 21)) / 31 / 12));
    expect(rows[1]?.payment).toBe(rows[0]?.payment);
    expect(rows.length).toBeLessThan(36);
  });

  // Common practice: instalments of principal are a part of the amount; 100,000.00 in 7 parts is 14,285.71.
  it('a step leaves equal parts of the principal as they are, to the cent', () => {
    const parts: Phase[] = [{ type: 'equal-principal', count: 7 }];
    const rows = rowsOf(plainLoan(parts, { rateSteps: [step('2024-06-15', '7.5', 're-level')] }));
    expect(rows.slice(0, 6).every(({ principal }) => principal === 1_428_571)).toBe(true);
    expect(rows.at(-1)?.principal).toBe(1_428_574);
  });

  const index: RateIndex = {
    name: 'Any index',
    margin: percent('1.5'),
    floor: percent('1'),
    cap: percent('5'),
    resetEvery: 'quarter',
    payment: 're-level',
    fixings: [
      { on: day('2024-01-15'), rate: percent('3.25') },
      { on: day('2024-04-15'), rate: percent('-2') },
      { on: day('2024-10-15'), rate: percent('4.5') },
    ],
  };

  it('an index with its margin stays within floor and cap, and a missing fixing is told of by its date', () => {
    const schedule = buildLoanSchedule(plainLoan([{ type: 'interest-only', count: 12 }], { index }));
    const interest = loanRows(schedule).map((row) => row.interest);
    expect([interest[0], interest[3], interest[6], interest[9]]).toEqual([39_583, 8_333, 8_333, 41_667]);
    const missing = schedule.notices.filter(({ kind }) => kind === 'fixing-missing');
    expect(missing.map(({ on }) => formatDay(on))).toEqual(['2024-07-15']);
    // Common practice: the rate that is agreed holds until the index is first looked at, a period after the start.
    const agreed = { ...index, fixings: index.fixings.slice(1) };
    const { notices } = buildLoanSchedule(
      plainLoan([{ type: 'interest-only', count: 12 }], { index: agreed }),
    );
    expect(notices.map(({ on }) => formatDay(on))).toEqual(['2024-07-15']);
  });
});

describe('stretches that do not follow one another', () => {
  const listed = (...days: string[]): Phase => ({
    type: 'custom',
    payments: days.map((on) => ({ on: day(on), amount: 2_000_000 })),
  });

  it('are refused where they overlap, at the first payment that does', () => {
    const overlapping = plainLoan([level(12, 60), listed('2024-06-01', '2026-06-01')]);
    expect(() => buildLoanSchedule(overlapping)).toThrow(/2024-06-01.*runs to 2025-01-15.*overlap/);
    const lists = plainLoan([listed('2024-06-01', '2024-09-01'), listed('2024-09-01')]);
    expect(() => buildLoanSchedule(lists)).toThrow('overlap');
    const early = plainLoan([level(12)], { last: day('2024-12-15') });
    expect(() => buildLoanSchedule(early)).toThrow('after the one before it, 2024-12-15');
    const asked = plainLoan([level(12, 60, 100_000), listed('2024-06-01')]);
    expect(() => solveUnknown(asked, 'annual')).toThrow('overlap');
  });

  it('are told where they leave a gap, and followed as they are', () => {
    const kinds = (terms: LoanTerms): string[] => buildLoanSchedule(terms).notices.map(({ kind }) => kind);
    expect(kinds(plainLoan([level(12, 60), listed('2025-02-01', '2026-06-01')]))).not.toContain('gap');
    const apart = plainLoan([level(12, 60), listed('2030-06-01')]);
    expect(kinds(apart)).toContain('gap');
    expect(failing(apart)).toEqual([]);
  });
});

describe('a loan already running', () => {
  it('goes on as the loan it was, taken on at any due date', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 58 }), fc.integer({ min: 1, max: 1500 }), (paid, rate) => {
        const whole = plainLoan([level(60)], { annualRate: ratio(BigInt(rate), 10_000n) });
        const rows = rowsOf(whole);
        const payment = rows[0]?.payment ?? 0;
        const takenOn = plainLoan([level(60 - paid, 60 - paid, payment)], {
          ...whole,
          amount: rows[paid - 1]?.closing ?? 0,
          start: rows[paid - 1]?.due ?? 0,
          first: addMonths(whole.first, paid),
          phases: [level(60 - paid, 60 - paid, payment)],
          takenOn: { accruedInterest: 0 },
        });
        const figures = ({ interest, closing, due }: LoanRow): unknown[] => [due, interest, closing];
        expect(rowsOf(takenOn).map(figures)).toEqual(rows.slice(paid).map(figures));
      }),
      { numRuns: 60 },
    );
  });

  // Common practice: taking a loan on changes nothing that the lender is paid, whatever the day of the cut-over.
  it('has the payment it had, taken on between due dates with the interest accrued by then', () => {
    const paid = fc.integer({ min: 1, max: 50 });
    fc.assert(
      fc.property(
        paid,
        fc.integer({ min: 1, max: 27 }),
        fc.integer({ min: 1, max: 1500 }),
        (at, days, rate) => {
          const whole = plainLoan([level(60)], { annualRate: ratio(BigInt(rate), 10_000n) });
          const schedule = buildLoanSchedule(whole);
          const start = (schedule.date[at - 1] as number) + days;
          const { outstanding, accruedInterest } = loanPosition(schedule, start);
          const takenOn = buildLoanSchedule({
            ...whole,
            amount: outstanding,
            start,
            first: addMonths(whole.first, at),
            phases: [level(60 - at)],
            takenOn: { accruedInterest },
          });
          expect(
            Math.abs((takenOn.payment[0] as number) - (schedule.payment[0] as number)),
          ).toBeLessThanOrEqual(5);
          const last = takenOn.payment[takenOn.length - 1] as number;
          expect(Math.abs(last - (takenOn.payment[0] as number))).toBeLessThan(100);
          expect(failing(takenOn.terms)).toEqual([]);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('pays what had accrued with its first payment, and it is another period’s expense', () => {
    const takenOn = plainLoan([level(12)], {
      start: day('2024-01-31'),
      takenOn: { accruedInterest: 25_806 },
    });
    const [first] = rowsOf(takenOn);
    // 15 of the 31 days of the month are still to come.
    expect(first?.interest).toBe(25_806 + Math.round((10_000_000 * 15) / 31 / 200));
    const schedule = buildLoanSchedule(takenOn);
    expect(loanPosition(schedule, day('2024-01-31')).accruedInterest).toBe(25_806);
    expect(failing(takenOn)).toEqual([]);
  });
});
