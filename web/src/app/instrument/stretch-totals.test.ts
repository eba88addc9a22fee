import '@angular/compiler';
import { interestExpense, parseDay, type LoanSchedule } from '@coffer/core';
import { readInstrument } from '@coffer/contract';
import { describe, expect, it } from 'vitest';
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
  const loan = schedule();

  // CFPB sample Loan Estimate H-24(B): 162,000 at 3.875 % over 30 years pays 761.78 and repays 15,773 in five years,
  // whole units; from memory, reproduced by computation.
  it('add up payments, fiscal years and days, each by its own name', () => {
    expect(typedStretch(loan, '1-60')).toEqual({ name: 'Payments 1 to 60', from: 0, end: 60 });
    const first = sumsOf(loan, { name: '', from: 0, end: 60 });
    expect([first.payments, first.payment]).toEqual([60, 60 * 76_178]);
    expect(Math.round(first.principal / 100)).toBe(15_773);
    expect(first.interest).toBe(first.payment - first.principal);
    expect(first.closing).toBe(16_200_000 - first.principal);
    const days = typedStretch(loan, '1 jan 25 - 31 dec 25');
    expect(days && sumsOf(loan, days).payments).toBe(12);
    expect(typedStretch(loan, '24-13') ?? typedStretch(loan, 'soon')).toBeUndefined();
  });

  it('of all fiscal years, or all calendar years, are those of the whole', () => {
    const offered = offeredStretches(loan, day('2026-10-31'), 6);
    const whole = sumsOf(loan, offered[0] ?? { name: '', from: 0, end: 0 });
    for (const kind of ['Fiscal', 'Calendar']) {
      const years = offered.filter(({ name }) => name.startsWith(kind)).map((each) => sumsOf(loan, each));
      expect(years.reduce((sum, { interest }) => sum + interest, 0)).toBe(whole.interest);
      expect(years.at(-1)?.closing).toBe(0);
    }
    expect(whole.interest).toBe(interestExpense(loan, loan.terms.start, day('2060-01-01')));
  });

  it('find a row by its number, its date, or the payoff', () => {
    const row = (typed: string): number | undefined => meantRow(loan, typed, day('2026-03-01'));
    expect(['24', '15 feb 2026', 'payoff', 'as of'].map(row)).toEqual([23, 24, 359, 25]);
    expect(row('361') ?? row('nowhere')).toBeUndefined();
  });
});
