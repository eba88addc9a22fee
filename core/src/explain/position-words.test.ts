import { describe, expect, it } from 'vitest';
import { buildBondSchedule } from '../bond/schedule/bond-walk.ts';
import type { BondTerms } from '../bond/terms/bond-terms.ts';
import type { Schedule } from '../kinds/schedules.ts';
import { buildLoanSchedule } from '../loan/schedule/build-loan-schedule.ts';
import type { LoanTerms, Phase } from '../loan/terms/loan-terms.ts';
import { position } from '../position/position.ts';
import { positionFigures, type PositionFigure } from '../position/position-figures.ts';
import { percent as ofFace, plainBond, priced } from '../testing/plain-bond.ts';
import { day, level, percent, thousand } from '../testing/plain-loan.ts';
import { explainPosition } from './explain-position.ts';

/** Labels with amount or text, and the key or cell that each leads to. */
const told = (schedule: Schedule, on: string, figure: PositionFigure): unknown[] =>
  explainPosition(schedule, day(on), figure).steps.map(({ label, amount, text, link }) => [
    label.replace(/ \(.*/, ''),
    amount ?? text,
    link && 'key' in link ? link.key : link && 'column' in link ? `${link.row} ${link.column}` : undefined,
  ]);
const loan = (more: Partial<LoanTerms> = {}, phases: readonly Phase[] = [level(12)]): Schedule =>
  buildLoanSchedule(thousand(phases, { annualRate: percent('36'), dayCount: 'ACT/360', ...more }));

// 1,000.00 at 36 % by actual days over 360: a day costs 1.00.
describe('the position of a loan', () => {
  it('leads to the row before the day, or to what was borrowed', () => {
    expect(told(loan(), '2025-01-31', 'outstanding')).toEqual([
      ['No payment yet: the amount borrowed', 100_000, 'amount'],
    ]);
    const [after] = told(loan(), '2025-02-01', 'outstanding') as [unknown[]];
    expect([after[0], after[2]]).toEqual(['After the row of 2025-02-01', '0 closing']);
    expect((told(loan(), '2025-02-01', 'unpaidInterest')[0] as unknown[])[2]).toBe('0 unpaid');
    expect((told(loan(), '2025-02-01', 'overpaid')[0] as unknown[])[2]).toBe('0 overpaid');
  });

  it('says what accrued on, what had before the loan was taken on, and where nothing has', () => {
    expect(told(loan(), '2025-01-31', 'accruedInterest').map((step) => (step as unknown[])[0])).toEqual([
      'Balance',
      '× annual rate',
      '× share of the year',
      'Days counted',
    ]);
    const even = told(loan({ dayCount: 'even-periods' }), '2025-01-31', 'accruedInterest');
    expect(even.at(-1)).toEqual(['Days', '30 since 2025-01-01', undefined]);
    expect(even).toHaveLength(4);
    const taken = loan({ takenOn: { accruedInterest: 500 } });
    expect(told(taken, '2025-01-31', 'accruedInterest').at(-1)).toEqual([
      '+ accrued before the loan was taken on',
      500,
      'takenOn',
    ]);
    expect(told(taken, '2025-01-01', 'accruedInterest')).toEqual([
      ['+ accrued before the loan was taken on', 500, 'takenOn'],
    ]);
    const paid = [['Paid through this day; nothing has accrued', '', undefined]];
    expect(told(taken, '2025-02-01', 'accruedInterest')).toEqual(paid);
    expect(told(loan(), '2025-01-01', 'accruedInterest')).toEqual(paid);
    const stepped = loan({
      dayCount: 'even-periods',
      rateSteps: [{ from: day('2025-01-11'), annualRate: percent('12'), payment: 'keep' }],
    });
    expect(
      told(stepped, '2025-01-31', 'accruedInterest').some((step) => (step as unknown[])[0] === 'Days'),
    ).toBe(false);
  });

  it('is called by its figure and the day, and what is not current is what is left of it', () => {
    const title = (figure: PositionFigure): string =>
      explainPosition(loan(), day('2025-02-28'), figure).title;
    expect([title('outstanding'), title('deferredInterest')]).toEqual([
      `${positionFigures.outstanding}, 2025-02-28`,
      'Interest deferred, 2025-02-28',
    ]);
    const { carrying, current } = position(loan(), day('2025-02-28'));
    expect(told(loan(), '2025-02-28', 'nonCurrent')).toEqual([
      ['Carrying amount', carrying, undefined],
      ['− current portion', current, undefined],
    ]);
  });

  it('has what falls due within a year, to the same day or the month end', () => {
    expect(told(loan(), '2025-02-28', 'current')).toEqual([
      [
        'Contractual principal due after 2025-02-28 to 2026-02-28, with arrears',
        expect.any(Number),
        undefined,
      ],
      ['Never more than the carrying amount', expect.any(Number), undefined],
    ]);
    expect((told(loan({}, [level(60)]), '2027-02-28', 'current')[0] as [string])[0]).toContain(
      'to 2028-02-29',
    );
    const presented = loan({
      events: [
        {
          type: 'presentation',
          on: day('2025-03-31'),
          to: day('2025-06-30'),
          as: 'current',
          reason: 'Breach',
        },
      ],
    });
    const open = {
      ...presented.terms,
      events: [{ type: 'presentation', on: day('2025-03-31'), as: 'non-current', reason: 'Refinanced' }],
    };
    expect((told(buildLoanSchedule(open as LoanTerms), '2026-04-30', 'current')[0] as [string])[0]).toBe(
      'Presented as non-current from 2025-03-31',
    );
    expect(told(presented, '2025-04-30', 'current')).toEqual([
      ['Presented as current from 2025-03-31 to 2025-06-30', 'Breach', undefined],
      ['Carrying amount', expect.any(Number), 'events'],
    ]);
  });

  it('has costs so far, what of them is amortized, and the rate that does it', () => {
    const costs = (method: 'effective' | 'straight-line', more: Partial<LoanTerms> = {}): Schedule =>
      loan({ issueCosts: { amount: 3_000, method }, ...more });
    const straight = told(costs('straight-line'), '2025-02-01', 'unamortizedIssueCosts');
    expect(straight).toEqual([
      ['Issue costs and deferred fees so far', 3_000, 'issueCosts'],
      ['− amortized by then, by days within a period', 250, undefined],
    ]);
    const effective = told(costs('effective'), '2025-01-01', 'unamortizedIssueCosts');
    expect(effective[1]).toEqual(['− amortized by then, by days within a period', 0, undefined]);
    expect(effective[2]).toEqual([
      'Effective annual rate',
      expect.stringMatching(/^\d\d\.\d{6}%$/),
      undefined,
    ]);
    expect(told(costs('effective'), '2024-12-31', 'unamortizedIssueCosts')).toHaveLength(2);
    expect(told(loan(), '2025-02-01', 'unamortizedIssueCosts')).toHaveLength(2);
    const stepped = costs('effective', {
      rateSteps: [{ from: day('2025-07-01'), annualRate: percent('12'), payment: 're-level' }],
    });
    expect((told(stepped, '2025-02-01', 'unamortizedIssueCosts')[2] as [string])[0]).toBe(
      'Annual rate over the agreed one',
    );
    // A fee is deferred without costs at issue too, at the rate from its day on.
    const fee = loan({ events: [{ type: 'fee', on: day('2025-03-01'), amount: 500, treatment: 'defer' }] });
    expect(told(fee, '2025-02-28', 'unamortizedIssueCosts')).toHaveLength(2);
    expect(told(fee, '2025-03-01', 'unamortizedIssueCosts')).toHaveLength(3);
    // Costs of what is not drawn are an asset: amortized by then is what is in neither.
    const line = loan(
      {
        amount: 0,
        creditLine: { limit: 100_000, unusedFee: percent('0') },
        issueCosts: { amount: 3_650, method: 'straight-line' },
        every: 'year',
        first: day('2026-01-01'),
        events: [{ type: 'draw', on: day('2025-01-02'), amount: 2_000, then: 'keep' }],
      },
      [{ type: 'interest-only', count: 1 }],
    );
    expect(told(line, '2025-04-11', 'unamortizedIssueCosts')[1]).toEqual([
      '− amortized by then, by days within a period',
      1_000,
      undefined,
    ]);
  });
});

// 100,000.00 at 8 % half-yearly for five years from 1 January 2024, by 30/360.
describe('the position of a bond', () => {
  const bond = (more: Partial<BondTerms> = {}): Schedule =>
    buildBondSchedule(
      plainBond('8', {
        price: priced('95'),
        rounding: { interest: 'cent', ties: 'away-from-zero' },
        ...more,
      }),
    );

  it('leads to the coupon that accrues, and says where none does', () => {
    expect(told(bond(), '2024-03-01', 'accruedInterest')).toEqual([
      ['Coupon 1, unrounded', expect.stringMatching(/^4000/), '1 coupon'],
      ['× share of its period', '1/3', undefined],
      ['Since', '2024-01-01', undefined],
    ]);
    const nothing = [['Nothing has accrued on this day', '', undefined]];
    expect(told(bond(), '2024-07-01', 'accruedInterest')).toEqual(nothing);
    expect(told(bond(), '2029-01-01', 'accruedInterest')).toEqual(nothing);
    expect(told(bond(), '2024-03-01', 'outstanding')).toEqual([
      ['Face not yet redeemed', 10_000_000, 'face'],
    ]);
    // The coupon of a period whose face is all redeemed before its end is never paid as such.
    const redeemed = bond({
      redemptions: [{ on: day('2024-05-01'), face: 10_000_000, price: ofFace('100'), at: 0 }],
    });
    expect((told(redeemed, '2024-03-01', 'accruedInterest')[0] as unknown[])[2]).toBeUndefined();
  });

  it('has the face that falls due within a year with its share of what is not amortized', () => {
    expect(told(bond(), '2027-12-31', 'current')).toEqual([
      ['No face falls due by 2028-12-31; it matures', '2029-01-01', 'matures'],
    ]);
    expect(told(bond(), '2028-01-01', 'current')).toEqual([
      ['Face due after 2028-01-01 to 2029-01-01', 10_000_000, 'matures'],
      ['Of the face outstanding', 10_000_000, undefined],
      ['− its share of the unamortized balance', expect.any(Number), undefined],
    ]);
    expect((told(bond({ price: priced('104') }), '2028-01-01', 'current')[2] as [string])[0]).toBe(
      '+ its share of the unamortized balance',
    );
  });

  it('has what was not amortized at the last coupon, less what was since', () => {
    const discount = told(bond({ method: 'straight-line' }), '2024-09-01', 'unamortizedDiscount');
    expect(discount).toEqual([
      ['Unamortized after 2024-07-01', 450_000, undefined],
      ['− amortized since, by days', 16_667, undefined],
      ['Share of the period', '1/3', undefined],
    ]);
    expect(told(bond({ method: 'straight-line' }), '2024-07-01', 'unamortizedDiscount')).toEqual([
      ['Unamortized after 2024-07-01', 450_000, undefined],
    ]);
    const premium = bond({ price: priced('105'), method: 'straight-line' });
    expect(told(premium, '2024-09-01', 'unamortizedPremium').slice(0, 2)).toEqual([
      ['Unamortized after 2024-07-01', 450_000, undefined],
      ['− amortized since, by days', 16_667, undefined],
    ]);
    const none = [['There is none on this day', '', undefined]];
    expect(told(premium, '2024-09-01', 'unamortizedDiscount')).toEqual(none);
    expect(told(bond(), '2024-09-01', 'unamortizedPremium')).toEqual(none);
    expect(told(bond(), '2024-09-01', 'unamortizedIssueCosts')).toEqual([
      ['There are no issue costs left', '', undefined],
    ]);
    const costs = bond({ method: 'straight-line', issueCosts: { amount: 20_000, method: 'straight-line' } });
    expect(told(costs, '2024-09-01', 'unamortizedIssueCosts').slice(0, 2)).toEqual([
      ['Unamortized after 2024-07-01', 18_000, undefined],
      ['− amortized since, by days', 667, undefined],
    ]);
    for (const on of ['2023-12-31', '2029-01-01'])
      expect(told(bond(), on, 'unamortizedDiscount')).toEqual([
        ['Nothing is outstanding on this day', '', undefined],
      ]);
    const between = bond({ dated: day('2024-01-01'), issued: day('2024-03-01') });
    expect((told(between, '2024-04-01', 'unamortizedDiscount')[0] as [string])[0]).toBe(
      'Unamortized after 2024-03-01',
    );
  });
});
