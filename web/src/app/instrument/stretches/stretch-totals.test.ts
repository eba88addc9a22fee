import '@angular/compiler';
import { formatDay, interestExpense, parseDay, type LoanSchedule } from '@coffer/core';
import { readInstrument } from '@coffer/contract';
import { describe, expect, it } from 'vitest';
import { viewKindOf } from '../../kinds/view-kinds';
import type { StretchRows } from './stretch-rows';
import { meantRow, offeredStretches, sumsOf, typedStretch } from './stretch-totals-model';

const day = (text: string): number => parseDay(text) as number;

/** 162,000 at 3.875 % over 360 months from 15 January 2024. */
function schedule(): LoanSchedule {
  const reading = readInstrument({
    document: 'coffer.instrument/1',
    kind: 'loan',
    name: 'Any',
    currency: 'EUR',
    amount: '162000.00',
    start: '2024-01-15',
    rate: { annual: '3.875%' },
    payments: { every: 'month', first: '2024-02-15', phases: [{ type: 'level', count: 360 }] },
  });
  if (!reading.ok || reading.instrument.schedule.kind !== 'loan') throw new Error('not read');
  return reading.instrument.schedule;
}

describe('totals of a stretch', () => {
  const loan = viewKindOf(schedule()).stretchRows(schedule());
  const sum = (rows: StretchRows, from: number, end: number): Record<string, number> => {
    const { count, totals, closing } = sumsOf(rows, { from, end });
    return { ...totals, count, closing };
  };

  // CFPB sample Loan Estimate H-24(B): 162,000 at 3.875 % over 30 years pays 761.78 and repays 15,773 in five years,
  // whole units; from memory, reproduced by computation.
  it('add up payments, fiscal years and days, each by its own name', () => {
    expect(typedStretch(loan, '1-60')).toEqual({ name: 'Payments 1 to 60', from: 0, end: 60 });
    const { count, payment = 0, interest, principal = 0, closing } = sum(loan, 0, 60);
    expect([count, payment]).toEqual([60, 60 * 76_178]);
    expect(Math.round(principal / 100)).toBe(15_773);
    expect(interest).toBe(payment - principal);
    expect(closing).toBe(16_200_000 - principal);
    const days = typedStretch(loan, '1 jan 25 - 31 dec 25');
    expect(days && sumsOf(loan, days).count).toBe(12);
    expect(typedStretch(loan, '24-13') ?? typedStretch(loan, 'soon')).toBeUndefined();
  });

  it('take a year of the loan, a calendar or a fiscal one, as people write them', () => {
    const named = (typed: string): unknown => {
      const found = typedStretch(loan, typed, 6);
      return found && [found.name, formatDay(loan.day(found.from)), formatDay(loan.day(found.end - 1))];
    };
    expect(named('year 2')).toEqual(['Year 2', '2025-02-15', '2026-01-15']);
    expect(named('2028')).toEqual(['Calendar 2028', '2028-01-15', '2028-12-15']);
    for (const typed of ['FY 2028', 'fy2028', 'Fiscal 2028']) {
      expect(named(typed)).toEqual(['Fiscal 2028', '2027-07-15', '2028-06-15']);
    }
    expect([named('year 99'), named('2099')]).toEqual([undefined, undefined]);
  });

  it('of all fiscal years, or all calendar years, are those of the whole', () => {
    const offered = offeredStretches(loan, day('2026-10-31'), 6);
    const whole = sum(loan, 0, loan.length);
    expect(offered[0]).toMatchObject({ from: 0, end: loan.length });
    for (const kind of ['Fiscal', 'Calendar']) {
      const years = offered.filter(({ name }) => name.startsWith(kind)).map((each) => sumsOf(loan, each));
      expect(years.reduce((all, { totals }) => all + (totals['interest'] ?? 0), 0)).toBe(whole['interest']);
      expect(years.at(-1)?.closing).toBe(0);
    }
    const { terms } = schedule();
    expect(whole['interest']).toBe(interestExpense(schedule(), terms.start, day('2060-01-01')));
  });

  it('find a row by its number, its date, or the payoff', () => {
    const row = (typed: string): number | undefined => meantRow(loan, typed, day('2026-03-01'));
    expect(['24', '15 feb 2026', 'payoff', 'as of'].map(row)).toEqual([23, 24, 359, 25]);
    expect(row('361') ?? row('nowhere')).toBeUndefined();
  });

  // Kieso, Weygandt, Warfield, Intermediate Accounting, chapter 14: 100,000 at 8 % half-yearly over five years sold at
  // a yield of 10 % for 92,278; interest expense in all 47,722, of it discount 7,722 (whole units, from memory).
  it('add up a bond by coupons and by fiscal years, from issue to face', () => {
    const reading = readInstrument({
      document: 'coffer.instrument/1',
      kind: 'bond',
      name: 'Any',
      currency: 'USD',
      face: '100000',
      issued: '2024-01-01',
      matures: '2029-01-01',
      coupon: { annual: '8%', every: 'half-year', dayCount: '30/360' },
      yield: '10%',
      rounding: { interest: 'unit' },
    });
    const { schedule: issued } = (reading as Extract<typeof reading, { ok: true }>).instrument;
    const bond = viewKindOf(issued).stretchRows(issued);
    const whole = sum(bond, 0, bond.length);
    expect([whole['count'], whole['coupon'], whole['closing']]).toEqual([10, 4_000_000, 10_000_000]);
    expect([whole['expense'], whole['amortization']]).toEqual([4_772_200, 772_200]);
    const years = offeredStretches(bond, day('2026-10-31'), 6).filter(({ name }) =>
      name.startsWith('Fiscal'),
    );
    expect(years.reduce((all, { from, end }) => all + (sum(bond, from, end)['expense'] ?? 0), 0)).toBe(
      4_772_200,
    );
    expect(typedStretch(bond, '2-3')).toMatchObject({ name: 'Coupons 2 to 3', from: 2, end: 4 });
    expect(bond.explain('amortization', 0, bond.length).amount).toBe(772_200);
    expect(['4', 'maturity'].map((typed) => meantRow(bond, typed, 0))).toEqual([4, 10]);
  });
});
