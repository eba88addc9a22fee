import { describe, expect, it } from 'vitest';
import type { OutlookView, SideBySideView } from '@coffer/contract';
import { withPayment } from '../portfolio/payment-change';
import { outcomeWords, soonerOrLater } from './differences';
import { wordsOf } from './scenario-words';
import { comparedByInstrument, comparedInAll } from './side-by-side';

const id = '6f1e2f0e-5a43-4b0e-9a4e-1c7d2f9f1a01';
const day = (text: string): number => Date.parse(text) / 86_400_000;
const outlook = (more: Partial<OutlookView>): OutlookView => ({
  interest: 100_00,
  months: [10_00, 0, 30_00, ...new Array<number>(9).fill(0)],
  owedAfter: 500_00,
  ends: '2031-01-15',
  left: 0,
  ...more,
});

describe('a typed payment', () => {
  it('adds to what was changed on other days, and takes the place of what was typed on its own', () => {
    const first = withPayment({ instrumentId: id, version: 3, name: 'Kiln loan' }, '2027-06-10', '900.00');
    const second = withPayment(first, '2027-02-10', '800.00');
    const third = withPayment(second, '2027-06-10', '950.00');
    expect(third).toEqual({
      instrumentId: id,
      version: 3,
      name: 'Kiln loan',
      events: [
        { type: 'payment-change', on: '2027-02-10', payment: '800.00' },
        { type: 'payment-change', on: '2027-06-10', payment: '950.00' },
      ],
    });
  });
});

describe('a scenario in words', () => {
  it('tells every way in which it changes an instrument', () => {
    const events = [
      { type: 'payment-change', on: '2027-02-10', payment: '45000.00' },
      { type: 'extra-principal', on: '2027-04-20', amount: '150000.00' },
      { type: 'repayment', on: '2027-05-15', amount: '220000.00' },
    ];
    expect(wordsOf({ events })).toBe(
      '45,000.00 each time from 10 Feb 2027; extra principal of 150,000.00 on 20 Apr 2027; 220,000.00 repaid on 15 May 2027',
    );
    const many = Array.from({ length: 9 }, (_, at) => ({
      type: 'extra-principal',
      on: `2027-0${at + 1}-20`,
      amount: `${at + 1}.00`,
    }));
    expect(wordsOf({ events: many })).toBe('9 times extra principal, 20 Jan 2027 to 20 Sep 2027');
    expect(wordsOf({ change: { from: '2027-01-01', annual: '4.2%' }, terms: { lender: 'Osier' } })).toBe(
      '4.2% from 1 Jan 2027; other lender',
    );
  });

  it('tells how much sooner it ends in years and months, or days', () => {
    expect(soonerOrLater(day('2041-01-10'), day('2031-02-10'))).toBe('9 years 11 months sooner');
    expect(soonerOrLater(day('2031-02-10'), day('2032-02-10'))).toBe('1 year later');
    expect(soonerOrLater(day('2031-02-10'), day('2031-02-05'))).toBe('5 days sooner');
    expect(soonerOrLater(5, 5)).toBe('the same day');
  });

  it('tells what comes of it, and what it leaves unpaid', () => {
    const now = outlook({ interest: 60_00, ends: '2030-01-15' });
    expect(outcomeWords(outlook({}), now, 2)).toBe(
      'cleared 15 Jan 2030, 1 year sooner · interest 40.00 less',
    );
    expect(outcomeWords(outlook({}), outlook({ left: 7_00 }), 2)).toContain('7.00 is left unpaid then');
  });
});

describe('side by side', () => {
  const view: SideBySideView = {
    days: ['2026-10-31', '2026-11-30'],
    columns: [
      { all: outlook({}), owed: [800_00, 790_00], faulty: [] },
      { all: outlook({ interest: 80_00, months: [10_00, 0, 50_00] }), owed: [800_00, 780_00], faulty: [] },
    ],
    rows: [{ id, name: 'Kiln loan', columns: [outlook({}), null] }],
    others: 2,
    unworkable: [],
  };

  it('has each figure with its difference from what is agreed', () => {
    const lines = comparedInAll(view, 2);
    const of = (name: string): unknown => lines.find((line) => line.name === name)?.figures;
    expect(of('Interest')).toEqual([
      { text: '100.00', sub: '' },
      { text: '80.00', sub: '20.00 less' },
    ]);
    expect(of('Highest month of the twelve')).toEqual([
      { text: '30.00', sub: 'Jan 2027' },
      { text: '50.00', sub: 'Jan 2027, 20.00 more' },
    ]);
    expect(of('Owed in a year')).toEqual([
      { text: '500.00', sub: '' },
      { text: '500.00', sub: 'the same' },
    ]);
    expect(lines.map(({ name }) => name)).not.toContain('Left after the last payments');
  });

  it('says where a scenario leaves an instrument as it is', () => {
    expect(comparedByInstrument(view, 2)[0]?.groups).toEqual([
      ['100.00', 'as it is'],
      ['40.00', 'as it is'],
      ['15 Jan 2031', 'as it is'],
    ]);
  });
});
