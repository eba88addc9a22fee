import { describe, expect, it } from 'vitest';
import { plainBondDocument, plainLoanDocument, scheduleOf } from '../../testing/plain-documents.ts';
import type { Fact } from '../../words/fact.ts';
import { documentKindOf } from '../document-kinds.ts';

const headline = (document: object): readonly Fact[] => {
  const schedule = scheduleOf(document);
  return documentKindOf(schedule).headline(schedule);
};
const loan = (more: object, phase: object = {}): object =>
  plainLoanDocument(more, { phases: [{ type: 'level', count: 12, ...phase }] });

describe('the headline of a loan', () => {
  it('tells net proceeds and the effective rate where there are costs (IFRS 9 appendix A)', () => {
    const told = Object.fromEntries(headline(loan({ issueCosts: { amount: '2000.00' } })));
    expect(told['Net proceeds']).toBe('98,000.00');
    // At that rate a year the twelve payments of 8,606.64 are worth the proceeds.
    const month = (1 + Number.parseFloat(told['Effective rate'] ?? '') / 100) ** (1 / 12);
    const worth = Array.from({ length: 12 }, (_, at) => 8606.64 / month ** (at + 1));
    expect(worth.reduce((sum, each) => sum + each, 0)).toBeCloseTo(98_000, -0.5);
    expect(headline(loan({}))).toEqual([]);
  });

  it('tells what was left open', () => {
    // An annuity of 8,606.64 for twelve months is worth 100,000 at six percent (annuity tables: 11.618932).
    const amount = headline(loan({ amount: '?' }, { payment: '8606.64' }));
    expect(amount).toEqual([['Amount, worked out', '99,999.97']]);
    const rate = headline(loan({ rate: { annual: '?' } }, { payment: '8606.64' }));
    expect(rate).toEqual([['Annual rate, worked out', '6.000%']]);
  });

  it('tells the payment that a renewal asks', () => {
    const events = [{ type: 'renewal', on: '2027-01-15', annual: '5%', count: 48 }];
    const phases = [{ type: 'level', count: 12, amortizeOver: 60 }];
    const told = headline(plainLoanDocument({ events }, { atEnd: 'leave', phases }));
    expect(told.map(([name]) => name)).toEqual(['Payment from 2027-02-15']);
    // What is left of 100,000 after twelve of sixty payments at six percent, 82,318.10, over 48 at five percent.
    expect(told[0]?.[1]).toMatch(/^1,895\.7\d$/);
  });
});

describe('the headline of a bond', () => {
  it('tells what a redemption gains or loses', () => {
    const redemptions = [{ on: '2028-01-15', face: '100000.00', price: '101' }];
    const told = headline(plainBondDocument({ redemptions }));
    // Issued at par, it is carried at par: one percent over it is lost.
    expect(told).toEqual([['Loss on 2028-01-15', '1,000.00']]);
  });
});
