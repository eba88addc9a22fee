import { describe, expect, it } from 'vitest';
import { formatDay } from '../../calendar/calendar-day.ts';
import { balancesOf } from '../../entries/balances.ts';
import type { Entry } from '../../entries/entry.ts';
import { day, percent, plainBond, priced } from '../../testing/plain-bond.ts';
import type { BondSchedule } from '../schedule/bond-schedule.ts';
import { buildBondSchedule } from '../schedule/bond-walk.ts';
import type { BondTerms, EarlyRedemption, Instalment } from '../terms/bond-terms.ts';
import { bondAccrualEntry, bondIssueEntry, bondOwnEntries, discountRole } from './bond-entries.ts';
import { bondStanding } from './bond-standing.ts';

const built = (more: Partial<BondTerms>, coupon = '8'): BondSchedule =>
  buildBondSchedule(
    plainBond(coupon, {
      price: priced('97'),
      method: 'straight-line',
      rounding: { interest: 'cent', ties: 'away-from-zero' },
      ...more,
    }),
  );
const said = (entry: Entry | undefined): unknown =>
  entry && [
    ...[formatDay(entry.date), entry.kind, entry.memo, entry.row],
    Object.fromEntries(entry.lines.map(({ account, debit, credit }) => [account, debit - credit])),
  ];
const own = (more: Partial<BondTerms>, from: string, to: string, coupon?: string): unknown[] =>
  bondOwnEntries(built(more, coupon), day(from), day(to)).flatMap((entry) => (entry ? [said(entry)] : []));
const issueCosts = { amount: 60_000, method: 'straight-line' } as const;
const instalments: readonly Instalment[] = [{ on: day('2027-01-01'), face: 2_000_000, at: 0 }];
const redeemed = (face: number, refundedBy?: string): readonly EarlyRedemption[] => [
  { on: day('2026-04-01'), face, price: percent('102'), at: 1, ...(refundedBy && { refundedBy }) },
];
const premium = { price: priced('103') };

// 100,000.00 at 8 % by 30/360 from New Year 2024 to New Year 2029, sold at 97: coupons of 4,000.00 on 1 January and
// July, and 300.00 of discount a period in a straight line; 60.00 of costs where there are any.
describe('a bond books', () => {
  it('its issue, at a discount, at a premium, with coupon sold or for goods', () => {
    const issue = (more: Partial<BondTerms>): unknown => said(bondIssueEntry(built(more)));
    expect(issue({ issueCosts })).toEqual([
      ...['2024-01-01', 'issue', 'Bonds issued', null],
      { cash: 9_640_000, 'bond-discount': 300_000, 'issue-costs': 60_000, 'bonds-payable': -10_000_000 },
    ]);
    expect(issue(premium)).toMatchObject({
      4: { cash: 10_300_000, 'bond-premium': -300_000, 'bonds-payable': -10_000_000 },
    });
    expect(issue({ dated: day('2024-01-01'), issued: day('2024-03-01') })).toMatchObject({
      4: {
        cash: 9_833_333,
        'bond-discount': 300_000,
        'interest-payable': -133_333,
        'bonds-payable': -10_000_000,
      },
    });
    expect(issue({ issuedFor: 'goods', issueCosts })).toMatchObject({
      2: 'Note issued for goods',
      4: { asset: 9_700_000, cash: -60_000, 'bond-discount': 300_000, 'issue-costs': 60_000 },
    });
    const at = (price: string): string => discountRole(built({ price: priced(price) }));
    expect([at('97'), at('100'), at('103')]).toEqual(['bond-discount', 'bond-discount', 'bond-premium']);
  });

  // By the face outstanding: 10 of 6 · 10 + 4 · 8 parts (bonds-outstanding method, common practice).
  it('coupons with what is amortized, instalments, and the end', () => {
    expect(own({ issueCosts, instalments }, '2027-01-01', '2027-07-01')).toMatchObject([
      [
        ...['2027-01-01', 'coupon', 'Coupon 6', 6],
        { 'interest-expense': 439_131, 'bond-discount': -32_609, 'issue-costs': -6_522, cash: -400_000 },
      ],
      [
        '2027-01-01',
        'redemption',
        'Instalment with coupon 6',
        6,
        { 'bonds-payable': 2_000_000, cash: -2_000_000 },
      ],
      { 2: 'Coupon 7' },
    ]);
    expect(own({ instalments }, '2029-01-01', '2029-01-01')).toMatchObject([
      { 2: 'Coupon 10' },
      [
        '2029-01-01',
        'redemption',
        'Redemption at maturity',
        10,
        { 'bonds-payable': 8_000_000, cash: -8_000_000 },
      ],
    ]);
    expect(own({ price: priced('70') }, '2024-07-01', '2024-07-01', '0')).toEqual([
      [
        ...['2024-07-01', 'coupon', 'Discount amortized, period 1', 1],
        { 'interest-expense': 300_000, 'bond-discount': -300_000 },
      ],
    ]);
  });

  // ASC 470-50-40-2: what is paid less what is carried is a gain or loss. Half-way through the fifth period 1,650.00 of
  // discount and 330.00 of costs are left, 40 % of which go.
  it('a redemption with the coupon to its day, what is written off, and what it costs', () => {
    expect(
      own({ issueCosts, redemptions: redeemed(4_000_000, 'Series B') }, '2026-04-01', '2026-04-01'),
    ).toEqual([
      [
        ...['2026-04-01', 'coupon', 'Coupon and amortization to redemption', null],
        {
          'interest-expense': 80_000 + 6_000 + 1_200,
          'bond-discount': -6_000,
          'issue-costs': -1_200,
          cash: -80_000,
        },
      ],
      [
        ...['2026-04-01', 'redemption', 'Redemption at 102.00 before maturity, refunded by Series B', null],
        {
          'bonds-payable': 4_000_000,
          'redemption-gain-loss': 80_000 + 66_000 + 13_200,
          'bond-discount': -66_000,
          'issue-costs': -13_200,
          cash: -4_080_000,
        },
      ],
    ]);
    expect(own({ redemptions: redeemed(10_000_000) }, '2026-04-02', '2029-01-01')).toEqual([]);
    expect(own({ redemptions: redeemed(10_000_000) }, '2026-04-01', '2026-04-01')).toMatchObject({
      1: { 2: 'Redemption at 102.00 before maturity' },
    });
    const two = [
      { ...redeemed(1_000_000)[0], on: day('2025-01-01'), price: percent('101'), at: 0 },
      ...redeemed(4_000_000),
    ];
    expect(own({ redemptions: two as readonly EarlyRedemption[] }, '2026-04-01', '2026-04-01')).toMatchObject(
      {
        1: { 2: 'Redemption at 102.00 before maturity' },
      },
    );
  });

  it('what has accrued by a day, and says what of it there is', () => {
    const accrual = (more: Partial<BondTerms>, on = '2024-03-01', coupon?: string): unknown =>
      said(bondAccrualEntry(built(more, coupon), day(on)));
    expect(accrual({ issueCosts })).toEqual([
      ...['2024-03-01', 'accrual', 'Coupon accrued and discount and issue costs amortized to 2024-03-01', 1],
      {
        'interest-expense': 133_333 + 10_000 + 2_000,
        'bond-discount': -10_000,
        'issue-costs': -2_000,
        'interest-payable': -133_333,
      },
    ]);
    expect(accrual({ ...premium, issueCosts })).toMatchObject({
      2: 'Coupon accrued and premium and issue costs amortized to 2024-03-01',
      4: { 'interest-expense': 133_333 - 10_000 + 2_000, 'bond-premium': 10_000 },
    });
    const memo = (more: Partial<BondTerms>, coupon?: string, on?: string): unknown =>
      (accrual(more, on, coupon) as unknown[])[2];
    expect(memo({})).toBe('Coupon accrued and discount amortized to 2024-03-01');
    expect(memo({ price: priced('100') })).toBe('Coupon accrued to 2024-03-01');
    expect(memo({ price: priced('100'), issueCosts })).toBe(
      'Coupon accrued and issue costs amortized to 2024-03-01',
    );
    expect(memo({ price: priced('70') }, '0')).toBe('Discount amortized to 2024-03-01');
    // Of three months that have accrued two were sold with the bond: one is an expense.
    const sold = { dated: day('2024-01-01'), issued: day('2024-03-01') };
    expect(accrual({ ...sold, price: priced('100') }, '2024-04-01')).toMatchObject({
      2: 'Coupon accrued to 2024-04-01',
      4: { 'interest-expense': 66_667, 'interest-payable': -66_667 },
    });
    for (const on of ['2023-12-31', '2024-01-01', '2024-07-01', '2029-01-01', '2029-02-01']) {
      expect(accrual({ issueCosts }, on)).toBeUndefined();
    }
  });
});

describe('where the accounts of a bond stand', () => {
  it.each<[string, Partial<BondTerms>]>([
    ['with costs and instalments', { issueCosts, instalments }],
    ['at a premium with coupon sold', { ...premium, dated: day('2024-01-01'), issued: day('2024-03-01') }],
    ['redeemed in part', { issueCosts, instalments, redemptions: redeemed(4_000_000) }],
    ['redeemed in full', { issueCosts, redemptions: redeemed(10_000_000) }],
    ['for goods', { issuedFor: 'goods' }],
  ])('is what it has booked by then, about each day on which something falls: %s', (_, more) => {
    const schedule = built(more);
    const days = [...new Set([...schedule.rows.map(({ due }) => due), schedule.terms.matures])];
    for (const on of days.flatMap((due) => [due, due + 1, due + 40])) {
      const booked = balancesOf(bondOwnEntries(schedule, 0, on).filter((entry) => entry !== undefined));
      booked.delete('bonds-payable');
      const standing = new Map(bondStanding(schedule, on));
      for (const account of new Set([...booked.keys(), ...standing.keys()])) {
        expect([on, account, (standing.get(account) ?? 0) + 0]).toEqual([
          on,
          account,
          booked.get(account) ?? 0,
        ]);
      }
    }
  });
});
