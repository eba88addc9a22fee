import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatDay, parseDay } from '../calendar/calendar-day.ts';
import type { Frequency } from '../calendar/frequency.ts';
import { explainLoanFigure } from './explain/explain-loan.ts';
import { ratio, ratioFromDecimal } from '../money/ratio.ts';
import { sumColumn } from '../proofs/proof.ts';
import { arbitraryLoan, arbitraryLoanWithEvents } from '../testing/arbitrary-loan.ts';
import { buildLoanSchedule } from './schedule/build-loan-schedule.ts';
import { loanProofs } from './schedule/loan-proofs.ts';
import type { LoanEvent } from './terms/loan-events.ts';
import { unroundedPayment } from './payment/payment-setting.ts';
import { PeriodGrowths } from './interest/period-growths.ts';
import { loanRows, type LoanSchedule, type PaymentSetting } from './schedule/loan-schedule.ts';
import type { LoanTerms, Phase } from './terms/loan-terms.ts';
import { TermsFault } from '../faults/terms-fault.ts';

const day = (text: string): number => parseDay(text) as number;

/** A loan from the day before its first regular period, percent as text. */
function loan(
  amount: number,
  percent: string,
  every: Frequency,
  phases: Phase[],
  more: Partial<LoanTerms> = {},
): LoanTerms {
  const rate = ratioFromDecimal(percent);
  const first = { month: '2024-02-01', quarter: '2024-04-01', 'half-year': '2024-07-01', year: '2025-01-01' }[
    every as string
  ];
  return {
    kind: 'loan',
    currency: 'USD',
    digits: 2,
    amount,
    start: day('2024-01-01'),
    annualRate: ratio(rate.num, rate.den * 100n),
    rateSteps: [],
    compounding: 'each-payment',
    dayCount: 'even-periods',
    every,
    due: 'end',
    atEnd: 'pay',
    first: day(first ?? '2024-02-01'),
    keepMonthEnd: false,
    phases,
    rounding: { interest: 'cent', payment: 'cent', ties: 'away-from-zero' },
    events: [],
    ...more,
  };
}

const extraOn = (on: number, amount: number): LoanEvent => ({
  type: 'extra-principal',
  on,
  amount,
  then: 'shorten',
});
const level = (count: number, amortizeOver = count): Phase => ({ type: 'level', count, amortizeOver });
const level360 = (amount: number, percent: string): LoanSchedule =>
  buildLoanSchedule(loan(amount, percent, 'month', [level(360)]));
const total = (schedule: LoanSchedule, column: 'interest' | 'principal' | 'payment'): number =>
  sumColumn(schedule[column], schedule.length);

describe('published payments', () => {
  // Monthly mortgage payment tables, widely printed; figures from memory, reproduced by computation.
  const tables: readonly [number, string, number, number][] = [
    [100_000, '6', 360, 599.55],
    [200_000, '6', 360, 1199.1],
    [100_000, '7', 360, 665.3],
    [100_000, '8', 360, 733.76],
    [100_000, '5', 360, 536.82],
    [100_000, '4', 360, 477.42],
    [100_000, '3', 360, 421.6],
    [100_000, '6', 180, 843.86],
    [100_000, '5', 180, 790.79],
    [250_000, '4.5', 360, 1266.71],
    [10_000, '6', 60, 193.33],
    [200_000, '6.5', 360, 1264.14],
    [100_000, '10', 360, 877.57],
    [100_000, '12', 360, 1028.61],
    [100_000, '7', 180, 898.83],
    // CFPB, Regulation Z sample forms H-24(B) and H-25(B); from memory, reproduced.
    [162_000, '3.875', 360, 761.78],
  ];
  it.each(tables)('%d at %s %% over %d months pays %d', (amount, percent, count, payment) => {
    const schedule = buildLoanSchedule(loan(amount * 100, percent, 'month', [level(count)]));
    expect((schedule.payment[0] as number) / 100).toBe(payment);
  });

  // CFPB sample Loan Estimate: principal paid off in five years, whole dollars; from memory, reproduced.
  it('the sample loan estimate repays 15,773 in five years', () => {
    const paid = loanRows(level360(16_200_000, '3.875'))
      .slice(0, 60)
      .reduce((sum, row) => sum + row.principal, 0);
    expect(Math.round(paid / 100)).toBe(15_773);
  });

  // Closed form P·i/(1 − (1+i)^−n) to 30 digits, computed apart.
  it('the unrounded payment has thirty right digits', () => {
    const { terms, rates, stretches, settings } = level360(10_000_000, '6');
    const setting = settings[0] as PaymentSetting;
    expect(unroundedPayment(terms, new PeriodGrowths(terms, rates), stretches, setting)).toBe(
      '599.550525152752394591461243684',
    );
  });
});

describe('published schedules', () => {
  const figures = (schedule: LoanSchedule, count: number): number[][] =>
    loanRows(schedule)
      .slice(0, count)
      .map((row) => [row.payment, row.interest, row.principal, row.closing].map((minor) => minor / 100));

  // Kellison, The Theory of Interest, chapter 6: 1,000 over four years at 8 %; from memory, reproduced.
  it('Kellison, four annual payments', () => {
    expect(figures(buildLoanSchedule(loan(100_000, '8', 'year', [level(4)])), 4)).toEqual([
      [301.92, 80, 221.92, 778.08],
      [301.92, 62.25, 239.67, 538.41],
      [301.92, 43.07, 258.85, 279.56],
      [301.92, 22.36, 279.56, 0],
    ]);
  });

  // Weygandt, Kimmel and Kieso, Accounting Principles, mortgage notes payable, whole dollars; from memory, reproduced.
  it.each([
    [
      '12',
      40,
      [
        [33_231, 30_000, 3_231, 496_769],
        [33_231, 29_806, 3_425, 493_344],
        [33_231, 29_601, 3_630, 489_714],
        [33_231, 29_383, 3_848, 485_866],
      ],
    ],
    [
      '16',
      20,
      [
        [50_926, 40_000, 10_926, 489_074],
        [50_926, 39_126, 11_800, 477_274],
        [50_926, 38_182, 12_744, 464_530],
        [50_926, 37_162, 13_764, 450_766],
      ],
    ],
  ] as const)('Weygandt mortgage note at %s %% in whole dollars', (percent, count, rows) => {
    const rounding = { interest: 'unit', payment: 'unit', ties: 'away-from-zero' } as const;
    const terms = loan(50_000_000, percent, 'half-year', [level(count)], { rounding });
    expect(figures(buildLoanSchedule(terms), 4)).toEqual(rows);
  });

  // reference/cent-schedules.json: exact integers, every row by its hash.
  const exact = JSON.parse(
    readFileSync(new URL('../../reference/cent-schedules.json', import.meta.url), 'utf8'),
  ) as {
    cents: number;
    annual: string;
    every: Frequency;
    count: number;
    payment: number;
    last: number;
    interest: number;
    sha256: string;
  }[];
  it.each(exact)('$cents cents at $annual % every $every over $count, each row to the cent', (known) => {
    const schedule = buildLoanSchedule(loan(known.cents, known.annual, known.every, [level(known.count)]));
    expect(schedule.payment[0]).toBe(known.payment);
    expect(schedule.payment[known.count - 1]).toBe(known.last);
    expect(total(schedule, 'interest')).toBe(known.interest);
    const rows = loanRows(schedule).map((row) => `${row.interest},${row.principal},${row.closing}`);
    expect(createHash('sha256').update(rows.join('\n')).digest('hex')).toBe(known.sha256);
  });
});

describe('phases', () => {
  // Common practice: interest-only pays the period's interest and leaves the balance.
  it('interest-only, then the balance with the last payment', () => {
    const schedule = buildLoanSchedule(
      loan(90_000_000, '5.9', 'month', [{ type: 'interest-only', count: 24 }]),
    );
    expect(schedule.payment[0]).toBe(442_500);
    expect(schedule.payment[23]).toBe(90_442_500);
  });

  it('fixed payments run until the loan is cleared, the last one smaller with its own interest', () => {
    const schedule = buildLoanSchedule(loan(1_000_000, '12', 'month', [{ type: 'fixed', payment: 100_000 }]));
    const last = loanRows(schedule).at(-1);
    expect(schedule.length).toBe(11);
    expect(last?.payment).toBe((last?.opening ?? 0) + (last?.interest ?? 0));
    expect(last?.payment).toBeLessThan(100_000);
  });

  // Common practice: a balloon is what is left of a payment spread over more payments than are made.
  it('a level payment spread over more payments leaves a balloon', () => {
    const balloon = buildLoanSchedule(loan(10_000_000, '6', 'month', [level(60, 360)]));
    const whole = level360(10_000_000, '6');
    expect(balloon.payment[0]).toBe(59_955);
    expect(balloon.payment[59]).toBe((whole.closing[58] as number) + (whole.interest[59] as number));
  });

  it('a payment that never repays is refused with the least that would', () => {
    const never = loan(10_000_000, '6', 'month', [{ type: 'fixed', payment: 50_000 }]);
    expect(() => buildLoanSchedule(never)).toThrow('the least that repays something is 500.01');
    const barely = loan(10_000_000, '6', 'month', [{ type: 'fixed', payment: 50_001 }]);
    expect(() => buildLoanSchedule(barely)).toThrow('not cleared within 1200 payments');
  });
});

describe('events', () => {
  const terms = loan(10_000_000, '6', 'month', [level(24)]);
  const rows = (more: Partial<LoanTerms>): ReturnType<typeof loanRows> =>
    loanRows(buildLoanSchedule({ ...terms, ...more }));
  const plain = rows({});

  // Half a percent a month by even periods: 10 of 31 days on the old balance, 21 on the new, rounded once.
  it('extra principal inside a period splits its interest by days', () => {
    const [extra, next] = rows({ events: [extraOn(day('2024-01-11'), 1_000_000)] });
    expect([extra?.n, extra?.extra, extra?.closing]).toEqual([null, 1_000_000, 9_000_000]);
    expect(next?.interest).toBe(Math.round((10_000_000 * 10 + 9_000_000 * 21) / 31 / 200));
  });

  it('extra principal is never more than is owed', () => {
    const due = day('2024-02-01');
    const far = buildLoanSchedule({ ...terms, events: [extraOn(due, 99_000_000)] });
    expect(far.length).toBe(1);
    expect(far.notices).toMatchObject([
      { kind: 'extra-cut', stated: 99_000_000, applied: plain[0]?.closing },
    ]);
  });
});

/** The schedule, unless the drawn terms never repay or grow beyond exact numbers, which is refused. */
function built(terms: LoanTerms): LoanSchedule {
  try {
    return buildLoanSchedule(terms);
  } catch (error) {
    fc.pre(!(error instanceof RangeError || error instanceof TermsFault));
    throw error;
  }
}

describe('any loan', () => {
  it('has proofs that hold', () => {
    fc.assert(
      fc.property(arbitraryLoan, (terms) => {
        const failing = loanProofs(built(terms)).filter((proof) => !proof.holds);
        expect(failing).toEqual([]);
      }),
      { numRuns: 300 },
    );
  });

  it('with events keeps its proofs, and what is then still owed is in arrears', () => {
    fc.assert(
      fc.property(arbitraryLoanWithEvents, (terms) => {
        const schedule = built(terms);
        expect(loanProofs(schedule).filter((proof) => !proof.holds)).toEqual([]);
        const owed = ['closing', 'unpaid'] as const;
        const left = owed.some((column) => (schedule[column][schedule.length - 1] ?? 0) > 0);
        const noticed = schedule.notices.some(({ kind }) => kind.endsWith('-at-end'));
        if (terms.atEnd === 'pay') expect(noticed).toBe(left);
        for (const column of ['closing', 'unpaid', 'payment', 'principal', 'extra', 'added'] as const) {
          expect(Math.min(...schedule[column].subarray(0, schedule.length)), column).toBeGreaterThanOrEqual(
            0,
          );
        }
      }),
      { numRuns: 500 },
    );
  });

  it('is changed by an event on its day and after, never before', () => {
    const more = (on: number, kind: number): Partial<LoanTerms> & { events: LoanEvent[] } => ({
      events: [
        [extraOn(on, 12_345)],
        [{ type: 'draw', on, amount: 12_345, then: 're-level' } as const],
        [{ type: 'payment-change', on, payment: 54_321 } as const],
        [{ type: 'interest-added', on } as const],
        [{ type: 'renewal', on, annualRate: ratio(7n, 100n), count: 6, amortizeOver: 6 } as const],
        [],
      ][kind] as LoanEvent[],
      ...(kind === 5 && {
        rateSteps: [{ from: on, annualRate: ratio(1n, 9n), payment: 're-level' as const }],
      }),
    });
    const anyDay = fc.integer({ min: 0, max: 3000 });
    fc.assert(
      fc.property(arbitraryLoanWithEvents, anyDay, fc.integer({ min: 0, max: 5 }), (terms, after, kind) => {
        const on = terms.start + after;
        fc.pre(!terms.events.some(({ type }) => type === 'settled'));
        // A renewal takes away the due date that a payment ahead of it was for: that stands for no due date then.
        const ahead = terms.events.some((each) => each.type === 'paid' && each.on < on && each.due >= on);
        fc.pre(kind !== 4 || !ahead);
        const { events, rateSteps = [] } = more(on, kind);
        const changed = {
          ...terms,
          events: [...terms.events, ...events],
          rateSteps: [...terms.rateSteps, ...rateSteps],
        };
        const before = (each: LoanTerms): unknown[] => loanRows(built(each)).filter((row) => row.date < on);
        expect(before(changed)).toEqual(before(terms));
      }),
      { numRuns: 300 },
    );
  });

  it('explains every figure as it stands in the schedule', () => {
    fc.assert(
      fc.property(arbitraryLoanWithEvents, (terms) => {
        const schedule = built(terms);
        for (const row of loanRows(schedule)) {
          for (const figure of [
            'interest',
            'payment',
            'closing',
            'added',
            'unpaid',
            'overpaid',
            'principal',
          ] as const) {
            const explained = explainLoanFigure(schedule, row.index, figure);
            expect(explained.amount, `${figure} on ${formatDay(row.date)}`).toBe(row[figure]);
          }
        }
      }),
      { numRuns: 60 },
    );
  });
});
