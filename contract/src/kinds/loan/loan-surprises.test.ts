import { describe, expect, it } from 'vitest';
import { plainBondDocument, plainLoanDocument as loan, scheduleOf } from '../../testing/plain-documents.ts';
import { documentKindOf } from '../document-kinds.ts';

const surprises = (document: object): string[] => {
  const schedule = scheduleOf(document);
  return documentKindOf(schedule).surprises(schedule);
};
const level = (first: string, more: object = {}): object =>
  loan({}, { first, phases: [{ type: 'level', count: 60, ...more }] });

// What is seldom meant, and by which measure, is common practice; the figures are of the loan itself.
describe('what surprises in a loan', () => {
  it('is nothing in an ordinary one, nor in a first period of a month and a half', () => {
    expect(surprises(loan())).toEqual([]);
    expect(surprises(level('2026-03-01'))).toEqual([]);
  });

  it('is a first period over one and a half, with the interest that it makes', () => {
    // Thirteen even months at half a percent of 100,000, six percent a year: simple interest of a broken first period.
    const [told, ...others] = surprises(level('2027-02-15'));
    expect(told).toMatch(
      /^The first period, 2026-01-15 to 2027-02-15, is as long as 13 regular ones; its interest is/,
    );
    expect(others).toEqual([]);
  });

  it('is a rate over thirty percent, from its day', () => {
    expect(surprises(loan({ rate: { annual: '30%' } }))).toEqual([]);
    expect(surprises(loan({ rate: { annual: '60%' } }))).toEqual([
      'The rate from 2026-01-15 is 60.00% a year.',
    ]);
    const steps = [{ from: '2027-01-15', annual: '45%' }];
    expect(surprises(loan({ rate: { annual: '4%', steps } }))).toEqual([
      'The rate from 2027-01-15 is 45.00% a year.',
    ]);
  });

  it('is interest brought in that a whole period does not make', () => {
    const takenOn = (accruedInterest: string): object => loan({ takenOn: { accruedInterest } });
    expect(surprises(takenOn('500.00'))).toEqual([]);
    // A twelfth of 6 % on 100,000.
    expect(surprises(takenOn('5000.00'))).toEqual([
      'The 5000.00 of interest accrued at the start is more than a whole period makes, about 500.00.',
    ]);
  });

  it('is a draw that multiplies the debt, but not on a line, which is there for it', () => {
    const events = [{ type: 'draw', on: '2026-02-15', amount: '300000.00', then: 're-level' }];
    const [told] = surprises(loan({ events }));
    expect(told).toMatch(
      /^The draw of 300000\.00 on 2026-02-15 makes the debt 4\.\d times what it was, 39\d{4}\.\d\d\.$/,
    );
    expect(surprises(loan({ events: [{ ...events[0], amount: '50000.00' }] }))).toEqual([]);
    const line = {
      document: 'coffer.instrument/1',
      kind: 'credit-line',
      name: 'A line',
      currency: 'EUR',
      limit: '500000.00',
      start: '2026-01-15',
      rate: { annual: '6%' },
      events: [
        { type: 'draw', on: '2026-02-15', amount: '10000.00' },
        { type: 'draw', on: '2026-03-15', amount: '300000.00' },
      ],
    };
    expect(surprises(line)).toEqual([]);
  });

  it('is a last payment many times the others, unless a balloon was agreed as one', () => {
    const [told] = surprises(level('2026-02-15', { amortizeOver: 360 }));
    expect(told).toMatch(
      /^The last payment, 9\d{4}\.\d\d on 2031-01-15, is 15\d\.\d times the one before it\.$/,
    );
    expect(surprises(level('2026-02-15', { balloon: '90000.00' }))).toEqual([]);
  });
});

describe('what surprises in a bond', () => {
  it('is a coupon over thirty percent', () => {
    const bond = (annual: string): object => plainBondDocument({ coupon: { annual, every: 'half-year' } });
    expect(surprises(bond('5%'))).toEqual([]);
    expect(surprises(bond('50%'))).toEqual(['The rate from 2026-01-15 is 50.00% a year.']);
  });
});
