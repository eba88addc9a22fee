import { describe, expect, it } from 'vitest';
import { formatDay } from '../../calendar/calendar-day.ts';
import { balancesOf } from '../../entries/balances.ts';
import type { Entry } from '../../entries/entry.ts';
import { draw, extra, paid, settled, withEvents } from '../../testing/loan-events.ts';
import { day, percent, thousand } from '../../testing/plain-loan.ts';
import { buildLoanSchedule } from '../schedule/build-loan-schedule.ts';
import type { LoanEvent } from '../terms/loan-events.ts';
import type { LoanSchedule } from '../schedule/loan-schedule.ts';
import type { LoanTerms, Phase } from '../terms/loan-terms.ts';
import { loanAccrualEntry, loanOwnEntries } from './loan-entries.ts';
import { loanStanding } from './loan-standing.ts';

const said = (entry: Entry | undefined): unknown =>
  entry && [
    formatDay(entry.date),
    entry.kind,
    entry.memo,
    entry.row,
    Object.fromEntries(entry.lines.map(({ account, debit, credit }) => [account, debit - credit])),
  ];
const waiting: readonly Phase[] = [{ type: 'interest-only', count: 4 }];
const built = (more: Partial<LoanTerms>, phases = waiting): LoanSchedule =>
  buildLoanSchedule(thousand(phases, { annualRate: percent('36'), dayCount: 'ACT/360', ...more }));
const own = (more: Partial<LoanTerms>, from: string, to: string, phases = waiting): unknown[] =>
  loanOwnEntries(built(more, phases), day(from), day(to)).flatMap((entry) => (entry ? [said(entry)] : []));
const first = (more: Partial<LoanTerms>): unknown => own(more, '2025-01-01', '2025-01-01')[0];

const fee = (on: string, treatment: 'expense' | 'defer'): LoanEvent => ({
  type: 'fee',
  on: day(on),
  amount: 800,
  treatment,
});
const issueCosts = { amount: 1_200, method: 'straight-line' } as const;
const purchase = { price: 120_000, downPayment: 20_000 };
const takenOn = { accruedInterest: 500 };
const line: Partial<LoanTerms> = {
  kind: 'credit-line',
  amount: 0,
  creditLine: { limit: 200_000, unusedFee: percent('3.6') },
  issueCosts,
  ...withEvents(draw('2025-01-11', 100_000)),
};
const putOff = (interest: 'added-each-period' | 'kept-apart'): readonly Phase[] => [
  { type: 'no-payment', count: 2, interest, then: 'pay' },
  { type: 'interest-only', count: 2 },
];

// 1,000.00 at 36 % by actual days over 360: a day costs 1.00. Interest is due on the first of February, March, April and
// May 2025, the balance with the last. What is booked is common practice: interest to expense as it is charged, unpaid
// through interest payable, principal to the loan.
describe('a loan books', () => {
  it('its beginning: what came in, what was bought, or what was taken on; costs beside it (ASU 2015-03)', () => {
    expect(first({})).toEqual([
      '2025-01-01',
      'issue',
      'Loan received',
      null,
      { cash: 100_000, 'loan-payable': -100_000 },
    ]);
    expect(first({ issueCosts })).toMatchObject({
      4: { cash: 98_800, 'issue-costs': 1_200, 'loan-payable': -100_000 },
    });
    expect(first({ purchase, issueCosts })).toMatchObject({
      2: 'Financed purchase',
      4: { asset: 120_000, 'issue-costs': 1_200, cash: -1_200, 'loan-payable': -100_000 },
    });
    const bought = loanOwnEntries(built({ purchase }), day('2025-01-01'), day('2025-01-01'))[0];
    expect(bought?.lines.map(({ account, debit, credit }) => [account, debit, credit])).toEqual([
      ['asset', 120_000, 0],
      ['cash', 0, 20_000],
      ['loan-payable', 0, 100_000],
    ]);
    expect(first({ takenOn, issueCosts })).toMatchObject({
      2: 'Loan taken on',
      4: {
        'opening-balances': 99_300,
        'issue-costs': 1_200,
        'loan-payable': -100_000,
        'interest-payable': -500,
      },
    });
    // Of a line they are an asset of their own (ASC 835-30-S45-1).
    expect(first(line)).toMatchObject({
      2: 'Credit line arranged',
      4: { 'deferred-costs': 1_200, cash: -1_200 },
    });
  });

  it('each payment, and interest that it leaves unpaid', () => {
    expect(own({}, '2025-02-01', '2025-02-01')).toEqual([
      ['2025-02-01', 'payment', 'Payment 1', 1, { 'interest-expense': 3_100, cash: -3_100 }],
    ]);
    const missed = withEvents(paid('2025-02-01', '2025-02-01', 0));
    expect(own(missed, '2025-02-01', '2025-02-28')).toEqual([
      [
        ...['2025-02-01', 'payment', 'Interest due with payment 1, unpaid', 1],
        { 'interest-expense': 3_100, 'interest-payable': -3_100 },
      ],
    ]);
    expect(own(missed, '2025-05-01', '2025-05-01')).toMatchObject([
      {
        2: 'Payment 4',
        4: { 'interest-expense': 3_000, 'interest-payable': 3_100, 'loan-payable': 100_000, cash: -106_100 },
      },
    ]);
  });

  it('payments of other days under the number that they were made for', () => {
    expect(own(withEvents(paid('2025-02-01', '2025-02-11', 3_100)), '2025-02-02', '2025-02-28')).toEqual([
      [
        '2025-02-11',
        'payment',
        'Late payment due 2025-02-01',
        1,
        { 'interest-payable': 3_100, cash: -3_100 },
      ],
    ]);
    expect(own(withEvents(paid('2025-05-01', '2025-05-11', 103_000)), '2025-05-02', '2025-05-31')).toEqual([
      [
        ...['2025-05-11', 'payment', 'Late payment due 2025-05-01', 4],
        { 'interest-expense': 1_000, 'interest-payable': 3_000, 'loan-payable': 99_000, cash: -103_000 },
      ],
    ]);
    // 20.00 has accrued by 21 February, of which 5.00 waits for the rest.
    const parts = withEvents(
      paid('2025-03-01', '2025-02-21', 1_500),
      paid('2025-03-01', '2025-03-01', 1_300),
    );
    expect(own(parts, '2025-02-02', '2025-03-01')).toEqual([
      [
        '2025-02-21',
        'payment',
        'Early payment due 2025-03-01',
        2,
        { 'interest-expense': 2_000, 'interest-payable': -500, cash: -1_500 },
      ],
      [
        '2025-03-01',
        'payment',
        'Payment 2',
        2,
        { 'interest-expense': 800, 'interest-payable': 500, cash: -1_300 },
      ],
    ]);
  });

  it('what joins the balance, what lessens it, and what goes beyond it', () => {
    const added = withEvents(draw('2025-02-11', 100_000), { type: 'interest-added', on: day('2025-02-21') });
    expect(own(added, '2025-02-02', '2025-02-28')).toEqual([
      ['2025-02-11', 'payment', 'Amount drawn', null, { cash: 100_000, 'loan-payable': -100_000 }],
      [
        ...['2025-02-21', 'payment', 'Interest added to the balance', null],
        { 'interest-expense': 3_000, 'loan-payable': -3_000 },
      ],
    ]);
    expect(
      own(withEvents(extra('2025-03-11', 4_000), extra('2025-04-01', 4_000)), '2025-03-02', '2025-04-01'),
    ).toEqual([
      ['2025-03-11', 'payment', 'Extra principal', null, { 'loan-payable': 4_000, cash: -4_000 }],
      [
        ...['2025-04-01', 'payment', 'Payment 3 and extra principal', 3],
        // Ten days on 1,000.00 and 21 on 960.00.
        { 'interest-expense': 3_016, 'loan-payable': 4_000, cash: -7_016 },
      ],
    ]);
    const back: LoanEvent = { type: 'overpayment-returned', on: day('2025-05-11'), amount: 2_000 };
    expect(
      own(withEvents(paid('2025-05-01', '2025-05-01', 105_000), back), '2025-05-01', '2025-05-31'),
    ).toMatchObject([
      { 4: { 'interest-expense': 3_000, 'loan-payable': 100_000, overpayment: 2_000, cash: -105_000 } },
      { 2: 'Overpayment returned', 3: null, 4: { cash: 2_000, overpayment: -2_000 } },
    ]);
  });

  it('interest that is put off as it is charged', () => {
    expect(own({}, '2025-02-01', '2025-03-01', putOff('added-each-period'))).toEqual([
      [
        ...['2025-02-01', 'payment', 'Interest of period 1 added to the balance', 1],
        { 'interest-expense': 3_100, 'loan-payable': -3_100 },
      ],
      [
        ...['2025-03-01', 'payment', 'Interest of period 2 added to the balance', 2],
        // 28 days at 1.031 a day: 28.868.
        { 'interest-expense': 2_887, 'loan-payable': -2_887 },
      ],
    ]);
    expect(own({}, '2025-02-01', '2025-03-01', putOff('kept-apart'))).toMatchObject([
      {
        2: 'Interest due with payment 1, unpaid',
        4: { 'interest-expense': 3_100, 'interest-payable': -3_100 },
      },
      { 2: 'Payment 2', 4: { 'interest-expense': 2_800, 'interest-payable': 3_100, cash: -5_900 } },
    ]);
  });

  // ASC 470-50-40-2; IFRS 9 3.3.3: the difference between what is owed and what is paid is a gain or loss.
  it('a settlement with what was forgiven as a gain, with its payment or between two', () => {
    expect(own(withEvents(settled('2025-03-01', 90_000)), '2025-03-01', '2025-12-31')).toEqual([
      [
        ...['2025-03-01', 'payment', 'Payment 2 and settlement of the loan', 2],
        {
          'interest-expense': 2_800,
          'loan-payable': 100_000,
          'redemption-gain-loss': -12_800,
          cash: -90_000,
        },
      ],
    ]);
    expect(own(withEvents(settled('2025-02-11', 105_000)), '2025-02-02', '2025-12-31')).toEqual([
      [
        ...['2025-02-11', 'payment', 'Settlement of the loan', null],
        { 'interest-expense': 1_000, 'loan-payable': 100_000, 'redemption-gain-loss': 4_000, cash: -105_000 },
      ],
    ]);
    expect(own(withEvents(settled('2025-02-11')), '2025-02-02', '2025-12-31')).toMatchObject([
      { 4: { 'interest-expense': 1_000, 'loan-payable': 100_000, cash: -101_000 } },
    ]);
  });

  it('fees from the first day asked for to the last, as an expense or with the costs', () => {
    const fees = { issueCosts, ...withEvents(fee('2025-02-11', 'expense'), fee('2025-03-11', 'defer')) };
    const booked = (from: string, to: string): unknown[] => own(fees, from, to);
    expect(booked('2025-02-11', '2025-02-11')).toEqual([
      ['2025-02-11', 'payment', 'Fee', null, { fees: 800, cash: -800 }],
    ]);
    expect(booked('2025-02-12', '2025-02-28')).toEqual([]);
    expect(booked('2025-02-02', '2025-02-10')).toEqual([]);
    expect(booked('2025-03-11', '2025-03-11')).toEqual([
      ['2025-03-11', 'payment', 'Fee deferred', null, { 'issue-costs': 800, cash: -800 }],
    ]);
  });

  it('what has accrued by a day, and says what of it there is', () => {
    const accrual = (more: Partial<LoanTerms>, on: string): unknown =>
      said(loanAccrualEntry(built(more), day(on)));
    expect(accrual({}, '2025-01-11')).toEqual([
      ...['2025-01-11', 'accrual', 'Interest accrued to 2025-01-11', null],
      { 'interest-expense': 1_000, 'interest-payable': -1_000 },
    ]);
    // On a day that charges nothing is left to accrue, and none before the first and after the last.
    for (const on of ['2024-12-31', '2025-01-01', '2025-02-01', '2025-05-01', '2025-05-11']) {
      expect(accrual({ issueCosts }, on)).toBeUndefined();
      expect(accrual(line, on)).toBeUndefined();
    }
    // Of interest that had accrued before the loan was taken on nothing is an expense.
    expect(accrual({ takenOn }, '2025-01-11')).toMatchObject({
      4: { 'interest-expense': 1_000, 'interest-payable': -1_000 },
    });
    // 3.00 a period in a straight line: 10 of 31 days, 10 of 28.
    expect(accrual({ issueCosts }, '2025-01-11')).toMatchObject({
      2: 'Interest accrued and costs amortized to 2025-01-11',
      4: { 'interest-expense': 1_097, 'issue-costs': -97, 'interest-payable': -1_000 },
    });
    expect(accrual({ issueCosts }, '2025-02-11')).toMatchObject({
      4: { 'interest-expense': 1_107, 'issue-costs': -107, 'interest-payable': -1_000 },
    });
    // 0.20 a day on 2,000.00 that nobody drew; 0.10 a day once half of it is drawn, and 1.00 interest.
    expect(accrual({ ...line, issueCosts: { ...issueCosts, amount: 0 } }, '2025-01-06')).toMatchObject({
      2: 'Fee accrued to 2025-01-06',
      4: { fees: 100, 'interest-payable': -100 },
    });
    expect(accrual(line, '2025-01-06')).toMatchObject({ 2: 'Fee accrued and costs amortized to 2025-01-06' });
    expect(accrual(line, '2025-01-21')).toMatchObject({
      2: 'Interest and fee accrued and costs amortized to 2025-01-21',
      4: { 'interest-expense': 1_200, fees: 300, 'deferred-costs': -200, 'interest-payable': -1_300 },
    });
    const free = { ...line, creditLine: { limit: 200_000, unusedFee: percent('0') }, events: [] };
    expect(accrual(free, '2025-01-06')).toMatchObject({ 2: 'Costs amortized to 2025-01-06' });
  });
});

describe('where the accounts of a loan stand', () => {
  it.each<[string, Partial<LoanTerms>, (readonly Phase[])?]>([
    ['financed', { purchase, issueCosts }],
    [
      'taken on',
      { takenOn, issueCosts, ...withEvents(fee('2025-02-11', 'defer'), fee('2025-03-11', 'expense')) },
    ],
    [
      'a line',
      {
        ...line,
        events: [draw('2025-01-11', 100_000), fee('2025-02-11', 'defer'), extra('2025-03-11', 4_000)],
      },
    ],
    ['settled for less', { issueCosts, ...withEvents(settled('2025-03-01', 90_000)) }],
    ['settled for more', withEvents(paid('2025-02-01', '2025-02-01', 500), settled('2025-02-11', 105_000))],
    [
      'overpaid',
      withEvents(paid('2025-05-01', '2025-05-01', 105_000), {
        type: 'overpayment-returned',
        on: day('2025-05-11'),
        amount: 1_500,
      }),
    ],
    [
      'missed, late and drawn on',
      withEvents(
        paid('2025-02-01', '2025-02-01', 0),
        paid('2025-03-01', '2025-03-11', 4_000),
        draw('2025-04-11', 100_000),
      ),
    ],
    ['with interest added', {}, putOff('added-each-period')],
    ['with interest kept apart', { takenOn }, putOff('kept-apart')],
  ])('is what it has booked by then, on each day of its life: %s', (_, more, phases) => {
    const schedule = built(more, phases);
    for (let on = day('2025-01-01'); on <= day('2025-06-01'); on += 1) {
      const booked = balancesOf(
        loanOwnEntries(schedule, day('2025-01-01'), on).filter((entry) => entry !== undefined),
      );
      booked.delete('loan-payable');
      const standing = new Map(loanStanding(schedule, on));
      for (const account of new Set([...booked.keys(), ...standing.keys()])) {
        const stands = (standing.get(account) ?? 0) + 0;
        expect([on, account, stands]).toEqual([on, account, booked.get(account) ?? 0]);
      }
    }
  });
});
