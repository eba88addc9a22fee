import { type CalendarDay, type MinorUnits, parseDay } from '@coffer/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dayOf, figureOf, habitsOf, rateOf, type SheetHabits } from '../sheets/cells';
import { examplesIn } from './examples';
import { guessed, headingRow } from './meanings';
import { outcomeOf, type SameForAll } from './sheet-row';

const habits: SheetHabits = { decimals: 'point', dates: 'day-first' };
const same: SameForAll = {
  currency: 'EUR',
  digits: 2,
  every: 'month',
  repaid: 'level',
  dayCount: 'even-periods',
  habits,
  before: parseDay('2026-03-31') as CalendarDay,
};

describe('columns of a sheet', () => {
  it('are found beneath a title, and mean what their headings say', () => {
    const rows = [
      ['Loans of Pellwin at year end', '', '', ''],
      ['', '', '', ''],
      ['Ref / use', 'Orig. amount', 'Draw', 'Int', 'n', 'Mthly pmt', 'Bal 31-12', 'Last'],
      [
        'Annealing lehr loan',
        '640,000.00',
        '15 Jun 2024',
        '6.10',
        '84',
        '9,380.19',
        '524,819.74',
        '15 Jun 2031',
      ],
    ];
    expect(headingRow(rows)).toBe(2);
    expect([...guessed(rows[2] ?? [], {}).values()].sort()).toEqual(
      ['name', 'amount', 'start', 'rate', 'count', 'payment', 'balance', 'last'].sort(),
    );
    expect(guessed(rows[2] ?? [], { 'ref / use': 'name' }).get(0)).toBe('name');
    expect([...guessed(['Kind', 'Lender', 'Name', 'Amount', 'End', 'Price', 'Drawn'], {})]).toEqual([
      [0, 'kind'],
      [5, 'price'],
      [6, 'drawn'],
      [4, 'last'],
      [3, 'amount'],
      [1, 'lender'],
      [2, 'name'],
    ]);
    expect(headingRow([['Loan one', '100,000.00', '1 Jan 2026', '5']])).toBeUndefined();
  });
});

describe('cells', () => {
  it('are read with a decimal comma or point, as the sheet has them', () => {
    const comma = habitsOf(['1.234.567,89', '4,25 %', '12.500']);
    expect(comma.decimals).toBe('comma');
    expect([figureOf('1.234.567,89', comma), figureOf('12.500', comma), rateOf('4,25 %', comma)]).toEqual([
      '1234567.89',
      '12500',
      '4.25',
    ]);
    expect(habitsOf(['1,234,567.89', '12,500']).decimals).toBe('point');
    expect(figureOf('EUR 1’234’567.80', habits)).toBe('1234567.80');
    for (const text of ['abc', '1.2.3', '-5', '(5)', '']) expect(figureOf(text, habits)).toBeUndefined();
  });

  it('show percent or a share of one, as workbooks keep it', () => {
    expect(['6.1', '6.10%', '0.061', '0.0425', '0.5', '0'].map((cell) => rateOf(cell, habits))).toEqual([
      '6.1',
      '6.10',
      '06.1'.replace(/^0/, ''),
      '4.25',
      '0.5',
      '0',
    ]);
  });

  it('hold dates as text, in the order of the sheet, and as a workbook counts days', () => {
    expect(habitsOf(['3/4/26', '6/25/26']).dates).toBe('month-first');
    expect(dayOf('6/25/26', { ...habits, dates: 'month-first' })).toBe('2026-06-25');
    expect(dayOf('3/4/26', habits)).toBe('2026-04-03');
    // ECMA-376 part 1, 18.17.4.1: day 45458 of the 1900 system is 15 June 2024.
    expect(dayOf('45458', habits)).toBe('2024-06-15');
    expect(dayOf('31 Jun 2025', habits)).toBeUndefined();
  });

  it('are read back as any figure that is written in either way', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1e13 }), (minor) => {
        const plain = (minor / 100).toFixed(2);
        const shown = Number(plain).toLocaleString('en-US', { minimumFractionDigits: 2 });
        const german = Number(plain).toLocaleString('de-DE', { minimumFractionDigits: 2 });
        expect(Number(figureOf(shown, habits))).toBe(Number(plain));
        expect(Number(figureOf(german, { ...habits, decimals: 'comma' }))).toBe(Number(plain));
      }),
    );
  });
});

describe('a row', () => {
  const cells = { name: 'Press', amount: '10,000.00', start: '2026-01-01', rate: '12', count: '12' };

  it('is worked out beside what the sheet says', () => {
    // 10,000 at 1 % a month in 12 payments: 888.49 (annuity tables); after two payments 8,414.51 is owed, less one.
    const outcome = outcomeOf({ ...cells, payment: '888.49', last: '2027-01-01' }, same);
    expect(outcome.faults).toEqual({});
    expect(outcome.worked?.payment).toBe(88_849);
    const owed = 10_000 * 1.01 ** 2 - 888.49 * (1 + 1.01);
    expect(Math.abs((outcome.worked?.balance ?? 0) / 100 - owed)).toBeLessThan(0.02);
    expect(outcome.differs).toEqual([]);
  });

  it('says where a day count, or the payment agreed, makes it come out as the sheet has it', () => {
    const as360 = outcomeOf({ ...cells, dayCount: 'ACT/360' }, same);
    const money = (minor: MinorUnits | undefined): string => ((minor ?? 0) / 100).toFixed(2);
    const says = { payment: money(as360.worked?.payment), balance: money(as360.worked?.balance) };
    expect(outcomeOf({ ...cells, ...says }, same)).toMatchObject({
      differs: ['payment', 'balance'],
      mend: { meaning: 'dayCount', value: 'ACT/360' },
    });
    const agreed = outcomeOf(cells, same, '900.00');
    const paid = { payment: '900.00', balance: money(agreed.worked?.balance) };
    expect(outcomeOf({ ...cells, ...paid }, same).mend).toEqual({ meaning: 'payment', value: '900.00' });
    expect(outcomeOf({ ...cells, ...paid }, same, '900.00').differs).toEqual([]);
    expect(outcomeOf({ ...cells, payment: '901.00', balance: '1.00' }, same).mend).toBeUndefined();
  });

  it('has each fault at its cell', () => {
    const faulty = { ...cells, start: '31 Jun 2025', rate: 'six', count: '', dayCount: '31/361' };
    expect(Object.keys(outcomeOf(faulty, same).faults).sort()).toEqual([
      'count',
      'dayCount',
      'rate',
      'start',
    ]);
    expect(Object.keys(outcomeOf({ ...cells, currency: 'XXQ' }, same).faults)).toEqual(['currency']);
    expect(Object.keys(outcomeOf({ ...cells, first: '2025-01-01' }, same).faults)).toEqual(['first']);
  });

  it('is of the kind that it says: a bond has its maturity and price, a credit line what is drawn', () => {
    const bond = {
      kind: 'Bond',
      name: 'Notes due 2031',
      amount: '250,000',
      start: '2026-01-15',
      rate: '4',
      last: '2031-01-15',
      price: '98.75',
    };
    const issued = outcomeOf({ ...bond, balance: '250,000.00', payment: '5,000.00' }, same);
    expect([issued.faults, issued.differs]).toEqual([{}, []]);
    expect(issued.document).toMatchObject({
      face: '250000',
      matures: '2031-01-15',
      coupon: { annual: '4%', every: 'half-year' },
    });
    expect(outcomeOf({ ...bond, balance: '246,875.00' }, same).differs).toEqual(['balance']);
    const line = { kind: 'revolving line', name: 'Line', amount: '150k', start: '2026-01-15', rate: '6.5' };
    const drawn = outcomeOf({ ...line, amount: '150,000', drawn: '40,000', balance: '40,000' }, same);
    expect([drawn.faults, drawn.differs]).toEqual([{}, []]);
    expect(drawn.document).toMatchObject({ limit: '150000', events: [{ type: 'draw', on: '2026-01-15' }] });

    const at = (row: object): string[] => Object.keys(outcomeOf(row, same).faults).sort();
    expect(at({ ...bond, price: '', last: '' })).toEqual(['last', 'price']);
    expect(at({ ...bond, every: 'weekly' })).toEqual(['every']);
    expect(at({ ...bond, last: '2025-01-15' })).toEqual(['last']);
    expect(at({ ...cells, kind: 'leasing' })).toEqual(['kind']);
    expect(at({ ...line, amount: '150,000', drawn: '200,000' })).toEqual(['drawn']);
  });

  it('of each kind that shows how a sheet is filled in comes out', () => {
    for (const example of examplesIn('EUR')) {
      expect(outcomeOf(example, same)).toMatchObject({ faults: {}, differs: [] });
    }
  });
});
