import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { paid } from '../../testing/loan-events.ts';
import { sumOf } from '../../testing/explained.ts';
import { arbitraryLoanWithEvents, canBeScheduled } from '../../testing/arbitrary-loan.ts';
import { day, level, percent, plainLoan, thousand } from '../../testing/plain-loan.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import { loanRows, type LoanSchedule } from '../schedule/loan-schedule.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import type { LoanRounding, LoanTerms, Phase } from '../terms/loan-terms.ts';
import { explainLoanFigure, rowAsOf, type LoanFigure } from './explain-loan.ts';

const cents: LoanRounding = { interest: 'cent', payment: 'cent', ties: 'away-from-zero' };
const made = (phases: readonly Phase[], more: Partial<LoanTerms> = {}): LoanSchedule =>
  buildLoanSchedule(thousand(phases, more));
/** Labels with their amount or text, and the key or column that each leads to. */
const told = (schedule: LoanSchedule, row: number, figure: LoanFigure): unknown[] =>
  explainLoanFigure(schedule, row, figure).steps.map(({ label, amount, text, link }) => [
    label,
    amount ?? text,
    link === undefined
      ? undefined
      : 'key' in link
        ? link.key
        : 'column' in link
          ? `${link.row} ${link.column}`
          : undefined,
  ]);

describe('a figure of a loan', () => {
  // A reader who adds up what is shown comes to the figure.
  it('is the sum of what it names, wherever it names no unrounded one', () => {
    const terms = arbitraryLoanWithEvents
      .map((each): LoanTerms => ({ ...each, rounding: cents }))
      .filter(canBeScheduled);
    const figures = [
      'opening',
      'principal',
      'extra',
      'added',
      'closing',
      'unpaid',
      'overpaid',
      'payment',
    ] as const;
    fc.assert(
      fc.property(terms, (each) => {
        const schedule = buildLoanSchedule(each);
        for (const row of loanRows(schedule).slice(0, 40)) {
          for (const figure of figures) {
            const explained = explainLoanFigure(schedule, row.index, figure);
            // Interest kept apart or paid with what came late is told by the row that it belongs to.
            const apart = row.deferred > 0 || (schedule.deferred[row.index - 1] ?? 0) > 0;
            if (explained.unrounded !== undefined || apart) continue;
            expect(sumOf(explained), `${figure} of row ${row.index} (${row.kind})`).toBe(row[figure]);
          }
        }
      }),
      { numRuns: 150 },
    );
  });

  it('leads from the first row to the terms, and from each other to the row before', () => {
    const loan = made([level(5)]);
    expect(told(loan, 0, 'opening')).toEqual([['Amount borrowed', 100_000, 'amount']]);
    expect(told(loan, 1, 'opening')).toEqual([['Closing balance of the row before', 80_396, '0 closing']]);
    expect(told(loan, 0, 'closing')).toEqual([
      ['Opening', 100_000, '0 opening'],
      ['− principal', 19_604, '0 principal'],
      ['− extra principal', 0, '0 extra'],
    ]);
    expect(told(loan, 0, 'principal')).toEqual([
      ['Payment', 20_604, '0 payment'],
      ['− interest', 1_000, '0 interest'],
    ]);
    expect(told(loan, 0, 'fee')).toEqual([['No fee is charged with this row', '', undefined]]);
    expect([rowAsOf(loan, day('2025-01-31')), rowAsOf(loan, day('2025-02-01'))]).toEqual([-1, 0]);
    expect(explainLoanFigure(loan, 0, 'interest').title).toBe('Interest, payment 1');
  });

  it('says how interest is made: at one rate, at several, and grown within the period', () => {
    const even = ['× share of the year (even periods)', '1/12', 'dayCount'];
    const plain = told(made([level(5)]), 0, 'interest');
    expect(plain.slice(0, 2)).toEqual([
      ['Opening balance', 100_000, '0 opening'],
      ['× annual rate', '12.00%', 'rate'],
    ]);
    expect((plain[2] as unknown[]).slice(1)).toEqual(even.slice(1));
    expect(plain).toHaveLength(3);
    const days = told(made([level(5)], { dayCount: 'ACT/360' }), 0, 'interest');
    expect(days[3]).toEqual(['Days counted', '31, 2025-01-01 to 2025-02-01', undefined]);
    const stepped = made([level(5)], {
      dayCount: 'ACT/360',
      rateSteps: [{ from: day('2025-01-11'), annualRate: percent('24'), payment: 'keep' }],
    });
    const both = told(stepped, 0, 'interest');
    expect(both.map((step) => (step as [string])[0]).filter((label) => label.startsWith('Balance'))).toEqual([
      'Balance, 2025-01-01 to 2025-01-11',
      'Balance, 2025-01-11 to 2025-02-01',
    ]);
    expect((both[1] as [string, string])[1]).toMatch(/^12\.00% \(/);
    const grown = told(made([level(5)], { compounding: 'monthly', dayCount: 'ACT/365F' }), 0, 'interest');
    expect(
      grown.map((step) => [
        (step as [string])[0].replace(/ \(.*/, ''),
        (step as [string, string, string])[2],
      ]),
    ).toEqual([
      ['Opening balance', '0 opening'],
      ['× growth, compounded monthly', 'compounding'],
      ['Annual rate', 'rate'],
      ['Share of the year', 'dayCount'],
      ['Days counted', undefined],
    ]);
    const taken = told(made([level(5)], { takenOn: { accruedInterest: 500 } }), 0, 'interest');
    expect(taken.at(-1)).toEqual(['+ accrued before the loan was taken on', 500, 'takenOn']);
    expect(told(made([level(5)], { takenOn: { accruedInterest: 500 } }), 1, 'interest')).toHaveLength(3);
    const drawn = made([level(5)], {
      events: [{ type: 'draw', on: day('2025-01-20'), amount: 5_000, then: 'keep' }],
    });
    expect(told(drawn, 0, 'interest')).toEqual([
      ['Interest is charged on due dates; this row only moves principal', '', undefined],
    ]);
    expect(explainLoanFigure(drawn, 0, 'interest').title).toBe('Interest, on 2025-01-20');
    expect(told(drawn, 0, 'added')).toEqual([['Recorded in the events', 5_000, 'events']]);
    expect(told(drawn, 0, 'closing')[1]).toEqual(['+ drawn', 5_000, '0 added']);
  });

  it('says what a payment is: agreed, listed, changed, in parts, levelled, recorded, the rest', () => {
    const payment = (row: number, phases: readonly Phase[], more: Partial<LoanTerms> = {}): unknown[] =>
      told(made(phases, more), row, 'payment');
    expect(payment(0, [{ type: 'interest-only', count: 3 }])).toEqual([
      ['The interest of the period', 1_000, '0 interest'],
    ]);
    expect(payment(0, [{ type: 'fixed', payment: 30_000 }])).toEqual([['Agreed payment', 30_000, 'payment']]);
    expect(payment(0, [{ type: 'equal-principal', count: 4 }])).toEqual([
      ['Principal, the balance in 4 parts', 25_000, 'phases'],
      ['+ the interest of the period', 1_000, '0 interest'],
    ]);
    expect(payment(0, [{ type: 'equal-principal', count: 4, principal: 20_000 }])[0]).toEqual([
      'Principal agreed',
      20_000,
      'phases',
    ]);
    const listed: Phase = {
      type: 'custom',
      payments: ['2025-02-01', '2025-03-01'].map((on) => ({ on: day(on), amount: 30_000 })),
    };
    expect(payment(0, [listed])).toEqual([['Listed in the terms', 30_000, 'phases']]);
    const change: LoanEvent = { type: 'payment-change', on: day('2025-02-15'), payment: 30_000 };
    expect(payment(1, [level(5)], { events: [change] })).toEqual([
      ['Payment agreed from 2025-02-15', 30_000, 'events'],
    ]);
    const waiting = (then: 'pay' | 'add-to-balance'): Phase[] => [
      { type: 'no-payment', count: 2, interest: 'kept-apart', then },
      level(3),
    ];
    expect(payment(0, waiting('pay'))).toEqual([['Nothing is paid in this stretch', '', undefined]]);
    expect(payment(1, waiting('pay'))).toEqual([
      ['Interest kept apart, paid at the end of the stretch', 2_000, undefined],
    ]);
    const levelled = [
      ['Balance to repay', 100_000, undefined],
      ['Spread over', '5 payments', 'count'],
      ['Annual rate', '12.00%', 'rate'],
    ];
    expect(payment(0, [level(5)])).toEqual(levelled);
    expect(payment(0, [level(5)], { takenOn: { accruedInterest: 500 } })[1]).toEqual([
      '+ with the first payment, interest accrued before the start',
      500,
      'takenOn',
    ]);
    const extra: LoanEvent = {
      type: 'extra-principal',
      on: day('2025-02-01'),
      amount: 10_396,
      then: 're-level',
    };
    expect(payment(1, [level(5)], { events: [extra] })[0]).toEqual([
      'Levelled anew: balance to repay',
      70_000,
      undefined,
    ]);
    expect(payment(6, [level(7)])).toEqual([
      ['All that is left: opening', expect.any(Number), '6 opening'],
      ['+ its own interest', expect.any(Number), '6 interest'],
    ]);
    expect(payment(0, [level(5)], { events: [paid('2025-02-01', '2025-01-30', 25_000)] })).toEqual([
      ['Recorded: paid on 2025-01-30', 25_000, 'events'],
      ['− beyond the schedule, to extra principal', expect.any(Number), undefined],
    ]);
    expect(payment(0, [level(5)], { events: [{ type: 'settled', on: day('2025-01-20') }] })).toEqual([
      ['Settled: the balance', 100_000, '0 opening'],
      ['+ interest to the day', expect.any(Number), '0 interest'],
    ]);
    expect(
      payment(0, [level(5)], {
        events: [{ type: 'draw', on: day('2025-01-20'), amount: 5_000, then: 'keep' }],
      }),
    ).toEqual([['Nothing is due with this row', '', undefined]]);
  });

  it('says what was recorded for another day, from what was overpaid, and where extra principal is no part of it', () => {
    const payment = (row: number, ...events: LoanEvent[]): unknown[] =>
      told(made([level(5)], { events }), row, 'payment');
    const late = [paid('2025-02-01', '2025-02-10', 20_604), paid('2025-02-01', '2025-02-12', 5)];
    expect(payment(0, ...late)).toEqual([
      ['Recorded: nothing paid by this day', 'paid on 2025-02-10 and 2025-02-12', 'events'],
    ]);
    expect(payment(1, ...late)).toEqual([['Recorded: paid on 2025-02-10', 20_604, 'events']]);
    const exact = [
      paid('2025-02-01', '2025-02-01', 20_604),
      { type: 'extra-principal', on: day('2025-02-01'), amount: 1_000, then: 'shorten' },
    ] as const;
    expect(payment(0, ...exact)).toEqual([['Recorded: paid on 2025-02-01', 20_604, 'events']]);
    expect(payment(0, paid('2025-02-01', '2025-02-01', 150_000))).toEqual([
      ['Recorded: paid on 2025-02-01', 150_000, 'events'],
      ['− beyond the schedule, to extra principal', 80_396, undefined],
      ['− beyond all that was owed', 49_000, undefined],
    ]);
    // A line that was overpaid settles its next bills from that.
    const line = buildLoanSchedule(
      plainLoan([{ type: 'interest-only', count: 4 }], {
        amount: 0,
        annualRate: percent('36'),
        start: day('2025-01-01'),
        first: day('2025-02-01'),
        dayCount: 'ACT/360',
        creditLine: { limit: 200_000, unusedFee: percent('0') },
        events: [
          { type: 'draw', on: day('2025-01-01'), amount: 100_000, then: 'keep' },
          paid('2025-02-01', '2025-02-01', 103_500),
          { type: 'draw', on: day('2025-02-01'), amount: 100_000, then: 'keep' },
          paid('2025-03-01', '2025-03-01', 2_000),
        ],
      }),
    );
    const [, , , march] = loanRows(line);
    expect(told(line, march?.index ?? -1, 'payment')).toEqual([
      ['Recorded: paid on 2025-03-01', 2_000, 'events'],
      ['+ of what had been overpaid', 400, undefined],
    ]);
    expect(told(line, march?.index ?? -1, 'overpaid')).toEqual([
      ['Overpaid before', 400, undefined],
      ['− settled this payment', 400, undefined],
    ]);
  });

  it('says to what a payment is rounded, halves as its terms have them', () => {
    const rounding = (
      payment: LoanRounding['payment'],
      ties: LoanRounding['ties'] = 'away-from-zero',
    ): unknown =>
      explainLoanFigure(made([level(5)], { rounding: { interest: 'cent', payment, ties } }), 0, 'payment')
        .rounding;
    expect([
      rounding('cent'),
      rounding('cent', 'even'),
      rounding('cent-up'),
      rounding('unit'),
      rounding('none'),
    ]).toEqual([
      'to the cent, halves up',
      'to the cent, a half to the even neighbour',
      'up to the cent',
      'to the whole unit, halves up',
      'not rounded; shown to the cent',
    ]);
  });

  it('tells of what was left unpaid, added and paid beyond all', () => {
    const missed = made([level(5)], { events: [paid('2025-02-01', '2025-02-01', 0)] });
    expect(told(missed, 0, 'unpaid')).toEqual([
      ['Unpaid before', 0, undefined],
      ['+ interest charged', 1_000, '0 interest'],
      ['− interest paid', 0, undefined],
    ]);
    expect(told(missed, 1, 'unpaid')[0]).toEqual(['Unpaid before', 1_000, undefined]);
    expect(told(missed, 1, 'principal')[1]).toEqual([
      '− interest paid, arrears first',
      expect.any(Number),
      undefined,
    ]);
    const added = made([level(5)], {
      events: [paid('2025-02-01', '2025-02-01', 0), { type: 'interest-added', on: day('2025-02-10') }],
    });
    const row = loanRows(added).find(({ kind }) => kind === 'interest-added')?.index ?? -1;
    expect(told(added, row, 'added').slice(0, 2)).toEqual([
      ['Interest charged', expect.any(Number), `${row} interest`],
      ['+ interest unpaid before', 1_000, undefined],
    ]);
    expect(told(added, row, 'closing')[1]).toEqual(['+ interest added', expect.any(Number), `${row} added`]);
    const over = made([level(5)], {
      events: [
        paid('2025-03-01', '2025-03-01', 150_000),
        { type: 'overpayment-returned', on: day('2025-03-20'), amount: 1_000 },
      ],
    });
    const [, second, third] = loanRows(over);
    expect(told(over, second?.index ?? -1, 'overpaid')).toEqual([
      ['Overpaid before', 0, undefined],
      ['+ paid beyond all that was owed', second?.overpaid, undefined],
    ]);
    expect(told(over, third?.index ?? -1, 'overpaid')).toEqual([
      ['Overpaid before', second?.overpaid, undefined],
      ['− came back', 1_000, undefined],
    ]);
  });

  it('says what a bill of a credit line is made of, and its fee by the days that the balance stood', () => {
    const line = buildLoanSchedule(
      plainLoan([{ type: 'interest-only', count: 3 }], {
        amount: 0,
        annualRate: percent('36'),
        start: day('2025-01-01'),
        first: day('2025-02-01'),
        dayCount: 'ACT/360',
        creditLine: { limit: 200_000, unusedFee: percent('3.6') },
        events: [
          { type: 'draw', on: day('2025-01-11'), amount: 100_000, then: 'keep' },
          paid('2025-02-01', '2025-02-01', 1_000),
        ],
      }),
    );
    // Ten days of 0.20 and 21 of 0.10; 21 days of 1.00.
    expect(told(line, 1, 'fee')).toEqual([
      ['Unused, 2025-01-01 to 2025-01-11', 200_000, undefined],
      ['× share of the year', '10/360', undefined],
      ['× annual fee', '3.60%', 'unusedFee'],
      ['Unused, 2025-01-11 to 2025-02-01', 100_000, undefined],
      ['× share of the year', '21/360', undefined],
      ['× annual fee', '3.60%', 'unusedFee'],
    ]);
    expect(explainLoanFigure(line, 1, 'fee')).toMatchObject({
      amount: 410,
      rounding: 'to the cent, halves up',
    });
    expect(told(line, 1, 'unpaid')).toEqual([
      ['Unpaid before', 0, undefined],
      ['+ interest charged', 2_100, '1 interest'],
      ['+ fee charged', 410, '1 fee'],
      ['− interest and fee paid', 1_000, undefined],
    ]);
    expect(told(line, 2, 'payment')).toEqual([
      ['The interest of the period', 2_800, '2 interest'],
      ['+ fee on the unused part', 280, '2 fee'],
      ['+ left unpaid by earlier bills', 1_510, undefined],
    ]);
  });
});
