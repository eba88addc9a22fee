import { describe, expect, it } from 'vitest';
import { ratio } from '../../money/ratio.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import type { LoanRounding, LoanTerms, Phase } from '../terms/loan-terms.ts';
import { day, level, percent, rowsOf, thousand } from '../../testing/plain-loan.ts';
import { evenGrowths, levelPayment, levelPaymentExact } from './level-payment.ts';

const rounded = (
  payment: LoanRounding['payment'],
  interest: LoanRounding['interest'] = 'cent',
): LoanRounding => ({
  interest,
  payment,
  ties: 'away-from-zero',
});
const unrounded = rounded('none', 'none');
const paid = (phases: readonly Phase[], more: Partial<LoanTerms> = {}): number[] =>
  rowsOf(thousand(phases, more)).map(({ payment }) => payment);

describe('an amount that is agreed', () => {
  // Common practice: what is agreed as an amount is paid as it is agreed, whatever is rounded and how far.
  it.each([rounded('cent'), rounded('unit', 'unit'), unrounded])('is paid as agreed (%o)', (rounding) => {
    const fixed: Phase = { type: 'fixed', payment: 12_345, count: 3 };
    expect(paid([fixed, level(2)], { rounding }).slice(0, 3)).toEqual([12_345, 12_345, 12_345]);
    expect(paid([level(3, 3, 12_345), level(2)], { rounding }).slice(0, 3)).toEqual([12_345, 12_345, 12_345]);
    const parts: Phase = { type: 'equal-principal', count: 3, principal: 12_345 };
    const principal = rowsOf(thousand([parts, level(2)], { rounding })).map((row) => row.principal);
    expect(principal.slice(0, 3)).toEqual([12_345, 12_345, 12_345]);
    const change: LoanEvent = { type: 'payment-change', on: day('2025-03-01'), payment: 23_456 };
    expect(paid([level(5)], { rounding, events: [change] }).slice(1, 4)).toEqual([23_456, 23_456, 23_456]);
    const [left] = rowsOf(
      thousand([{ ...level(3), balloon: 40_000 } as Phase], { rounding, atEnd: 'leave' }),
    ).slice(-1);
    expect(Math.abs((left?.closing ?? 0) - 40_000)).toBeLessThanOrEqual(
      rounding.payment === 'unit' ? 320 : 2,
    );
  });

  it('may be a balloon of all that is owed, and no more', () => {
    const balloon = (amount: number): Phase => ({
      type: 'level',
      count: 3,
      amortizeOver: 3,
      balloon: amount,
    });
    for (const rounding of [rounded('cent'), unrounded]) {
      expect(paid([balloon(100_000)], { rounding }).slice(0, 2)).toEqual([1_000, 1_000]);
      expect(() => buildLoanSchedule(thousand([balloon(100_001)], { rounding }))).toThrow(
        'A balloon of 1000.01 is more than is owed as the stretch begins; it may be at most 1000.00.',
      );
    }
  });
});

describe('equal parts of the principal', () => {
  const principal = (rounding: LoanRounding, amount = 100_000, count = 3): number[] =>
    rowsOf(thousand([{ type: 'equal-principal', count }], { rounding, amount })).map((row) => row.principal);
  // Common practice: each part is rounded as payments are, and the last takes what is left.
  it.each([
    ['cent', 100_000, 3, [33_333, 33_333, 33_334]],
    ['cent-up', 100_000, 3, [33_334, 33_334, 33_332]],
    ['cent-up', 99_999, 3, [33_333, 33_333, 33_333]],
    ['unit', 100_000, 3, [33_300, 33_300, 33_400]],
    ['cent', 100_001, 2, [50_001, 50_000]],
  ] as const)('to the %s, %i in %i', (payment, amount, count, parts) => {
    expect(principal(rounded(payment), amount, count)).toEqual(parts);
    // Interest that is not rounded counts in finer amounts, and the parts stay what they are.
    expect(principal(rounded(payment, 'none'), amount, count)).toEqual(parts);
  });

  it('that are not rounded leave a third and two thirds', () => {
    const rows = rowsOf(thousand([{ type: 'equal-principal', count: 3 }], { rounding: unrounded }));
    expect(rows.map(({ closing }) => closing)).toEqual([66_667, 33_333, 0]);
    expect(principal({ ...rounded('cent'), ties: 'even' }, 100_001, 2)).toEqual([50_000, 50_001]);
  });

  it('are made anew of what is left where extra principal asks for it, but not where the part is agreed', () => {
    const extra: LoanEvent = {
      type: 'extra-principal',
      on: day('2025-02-10'),
      amount: 30_000,
      then: 're-level',
    };
    const parts = (phase: Phase): number[] =>
      rowsOf(thousand([phase], { events: [extra] })).map((row) => row.principal);
    expect(parts({ type: 'equal-principal', count: 5 })).toEqual([20_000, 0, 12_500, 12_500, 12_500, 12_500]);
    expect(parts({ type: 'equal-principal', count: 5, principal: 20_000 }).slice(0, 4)).toEqual([
      20_000, 0, 20_000, 20_000,
    ]);
  });
});

describe('a payment that repays nothing', () => {
  const refused = (payment: number, more: Partial<LoanTerms> = {}): string => {
    try {
      buildLoanSchedule(thousand([{ type: 'fixed', payment }], more));
      return '';
    } catch (error) {
      return error instanceof Error ? error.message : '';
    }
  };

  // 1,000.00 at 1 % a month: 10.00 is the interest of the first, and what only pays it never repays.
  it('is refused with the least that does, whatever is rounded', () => {
    for (const rounding of [rounded('cent'), unrounded, rounded('cent', 'unit')]) {
      const least = 'and would never repay the loan; the least that repays something is 10.01.';
      expect(refused(1_000, { rounding })).toBe(`A payment of 10.00 is all interest ${least}`);
      expect(refused(999, { rounding })).toBe(
        `A payment of 9.99 does not cover the first interest of 10.00 ${least}`,
      );
    }
    expect(refused(2_000)).toBe('');
    // Interest of 10.49 is 10.00 where it is rounded to the unit.
    expect(refused(1_000, { amount: 104_900, rounding: rounded('cent', 'unit') })).toContain(
      'is all interest',
    );
  });

  it('is seen over a long first period too: the least repays something, one less is refused', () => {
    // Two months' interest of 20.00 comes first; 1,020.00 then earns 10.20, and repaying begins from 1,020 × 1 ÷ 101.
    const long = { start: day('2024-12-01') };
    expect(refused(1_009, long)).toContain('the least that repays something is 10.10.');
    const closing = rowsOf(thousand([{ type: 'fixed', payment: 1_030, count: 60 }, level(2)], long)).map(
      (row) => row.closing,
    );
    expect(closing[59]).toBeLessThan(closing[0] ?? 0);
  });

  it('may be agreed for a time, or beside a balloon, for what it does not cover joins the balance', () => {
    expect(
      rowsOf(thousand([level(3, 3, 900), level(3)]))
        .map((row) => row.closing)
        .slice(0, 3),
    ).toEqual([100_100, 100_201, 100_303]);
    const beside = { ...level(3, 3, 900), balloon: 100_303 } as Phase;
    expect(rowsOf(thousand([beside], { atEnd: 'leave' })).at(-1)?.closing).toBe(100_303);
    expect(() =>
      buildLoanSchedule(thousand([{ type: 'interest-only', count: 1 }, level(3, 3, 900)])),
    ).toThrow('does not cover');
  });
});

describe('the level payment', () => {
  const growths = evenGrowths(3, ratio(1n, 100n));

  // Interest brought in earns none and is paid with the first payment: (1000 + 5 ÷ 1.01) ÷ a(3, 1 %).
  it('takes what had accrued before the loan was taken on with the first payment alone', () => {
    const factor = (1 - 1.01 ** -3) / 0.01;
    const payment = levelPaymentExact(100_000, growths, { broughtIn: 500, balloon: 0 }).toNumber();
    expect(payment).toBeCloseTo((100_000 + 500 / 1.01) / factor, 8);
    for (const rounding of [rounded('cent'), rounded('cent', 'none')]) {
      const [first] = paid([level(3)], { takenOn: { accruedInterest: 500 }, rounding });
      expect(first).toBe(Math.round(payment));
    }
  });

  it('is refused where it could not be kept exactly', () => {
    const once = evenGrowths(1, ratio(1n, 100n));
    const nearest = { step: 1, how: 'away-from-zero' } as const;
    expect(() => levelPayment(Number.MAX_SAFE_INTEGER, once, nearest)).toThrow(
      'too large to be kept exactly',
    );
    expect(levelPayment(Number.MAX_SAFE_INTEGER, evenGrowths(1, ratio(0n)), nearest)).toBe(
      Number.MAX_SAFE_INTEGER,
    );
  });
});

describe('the payment of a stretch', () => {
  const rateStep = (from: string): Partial<LoanTerms> => ({
    rateSteps: [{ from: day(from), annualRate: percent('24'), payment: 're-level' }],
  });

  it('that is agreed stands at the rate that is in force as the stretch begins', () => {
    const phases: Phase[] = [{ type: 'interest-only', count: 2 }, level(4, 4, 27_000)];
    expect(paid(phases, rateStep('2025-03-01'))).toEqual([
      1_000,
      1_000,
      27_000,
      27_000,
      27_000,
      expect.any(Number),
    ]);
    // A day later it is levelled anew, as is agreed for the rate.
    expect(paid(phases, rateStep('2025-03-02'))[2]).not.toBe(27_000);
  });

  // On one day all that moves the balance comes first: the payment of the day is still the one before.
  it('is levelled anew for a rate of the day from what is owed as the day ends', () => {
    const rows = rowsOf(thousand([level(5)], rateStep('2025-03-01')));
    const [first, second, third] = rows;
    expect(second?.payment).toBe(first?.payment);
    const rest = rowsOf(
      thousand([level(3)], {
        amount: second?.closing ?? 0,
        annualRate: percent('24'),
        start: day('2025-03-01'),
        first: day('2025-04-01'),
      }),
    );
    expect(third?.payment).toBe(rest[0]?.payment);
    expect(rows.slice(2).map(({ closing }) => closing)).toEqual(rest.map(({ closing }) => closing));
  });

  it('stays as it was where nothing is left to level, and stands for what is drawn later', () => {
    const all: LoanEvent = {
      type: 'extra-principal',
      on: day('2025-02-10'),
      amount: 90_000,
      then: 're-level',
    };
    const draw: LoanEvent = { type: 'draw', on: day('2025-02-20'), amount: 90_000, then: 'keep' };
    const rows = rowsOf(thousand([level(5)], { events: [all, draw] }));
    const due = rows.filter(({ kind }) => kind === 'payment').map(({ payment }) => payment);
    expect(due.slice(1, 4)).toEqual([due[0], due[0], due[0]]);
  });

  it('is what was agreed for a day, beside anything that would level it on that day or had before', () => {
    const change = (on: string): LoanEvent => ({ type: 'payment-change', on: day(on), payment: 30_000 });
    const extra: LoanEvent = {
      type: 'extra-principal',
      on: day('2025-02-10'),
      amount: 10_000,
      then: 're-level',
    };
    const next = (...events: LoanEvent[]): number | undefined =>
      rowsOf(thousand([level(5)], { events })).find(({ due }) => due === day('2025-03-01'))?.payment;
    expect(next(extra, change('2025-02-10'))).toBe(30_000);
    expect(next(extra, change('2025-02-11'))).toBe(30_000);
    expect(next(extra, change('2025-02-09'))).toBe(next(extra));
    expect(next(extra)).not.toBe(30_000);
  });

  it('of a renewal is not levelled for what came before it', () => {
    const rows = (then: 'shorten' | 're-level', paid: string, renewed: string): unknown[] => {
      const events: LoanEvent[] = [
        { type: 'extra-principal', on: day(paid), amount: 10_000, then },
        {
          type: 'renewal',
          on: day(renewed),
          annualRate: percent('6'),
          count: 4,
          amortizeOver: 24,
          payment: 2_000,
        },
      ];
      return rowsOf(thousand([level(2, 24)], { atEnd: 'leave', events })).map((row) => [
        row.due,
        row.payment,
        row.closing,
      ]);
    };
    // Within the term, and on its last due date with a renewal after it.
    for (const [paid, renewed] of [
      ['2025-02-15', '2025-02-20'],
      ['2025-03-01', '2025-03-16'],
    ] as const) {
      expect(rows('re-level', paid, renewed)).toEqual(rows('shorten', paid, renewed));
      expect(rows('re-level', paid, renewed).slice(-2)[0]).toMatchObject([
        expect.any(Number),
        2_000,
        expect.any(Number),
      ]);
    }
  });
});
