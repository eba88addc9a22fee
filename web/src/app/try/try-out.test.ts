import { describe, expect, it } from 'vitest';
import type { LoanDocument } from '@coffer/contract';
import { axisValues } from './grid/axis-values';
import { differenceCell } from './grid/grid-figures';
import { changeInWords } from './change-in-words';
import { comparedLines } from './comparison';
import { tryOut, tryRow } from './try-out';
import { noChange, readChange, typedOf } from './typed-variant';

const loan: LoanDocument = {
  document: 'coffer.instrument/1',
  kind: 'loan',
  name: 'House loan',
  currency: 'USD',
  amount: '100000.00',
  start: '2020-01-01',
  rate: { annual: '6%' },
  payments: { every: 'month', first: '2020-02-01', phases: [{ type: 'level', count: 360 }] },
};

describe('a typed change', () => {
  it('is read as people type it, told in words, and typed back the same', () => {
    const typed = { ...noChange, from: '1 jan 27', annual: '5 1/2', extraEach: '1.5k' };
    const { change, faults } = readChange(typed);
    expect(faults).toEqual([]);
    expect(changeInWords(change)).toBe('5.5% from 1 Jan 2027; 1,500 extra with each payment');
    expect(readChange(typedOf(change)).change).toEqual(change);
  });

  it('names the field that cannot be read', () => {
    expect(readChange({ ...noChange, annual: 'low' }).faults.map(({ key }) => key)).toEqual(['annual']);
  });
});

describe('tried changes', () => {
  it('reach back to the start as if every payment had been made as scheduled', () => {
    const recorded: LoanDocument = {
      ...loan,
      events: [{ type: 'paid', due: '2020-02-01', on: '2020-02-20', amount: '599.55' }],
    };
    const tried = tryOut(recorded, { change: { annual: '5%' } });
    // Monthly mortgage payment tables, widely printed: 5 % over 360 pays 536.82 per 100,000; from memory.
    expect(tried.ok && tried.outcome).toMatchObject({ payment: 53_682, payments: 360, left: 0 });
    expect(tried).toEqual(tryOut(loan, { change: { annual: '5%' } }));
  });

  it('stand beside the original with what they save', () => {
    const [original, sooner] = [tryOut(loan, {}), tryOut(loan, { change: { payments: 180 } })];
    if (!original.ok || !sooner.ok) throw new Error('cannot be tried');
    const lines = comparedLines(original.outcome, [sooner, undefined], 2);
    const text = (name: string): readonly string[] | undefined =>
      lines.find((line) => line.name === name)?.texts;
    // The same tables: 15 years pay 843.86 instead of 599.55.
    expect(text('Payment')).toEqual(['599.55', '843.86', '–']);
    expect(text('Payment differs by')).toEqual(['', '244.31 more', '–']);
    expect(text('Ends')).toEqual(['', '15 years sooner', '–']);
  });

  it('fill a grid, with the reason where a pair cannot be', () => {
    const cells = tryRow(
      loan,
      {
        change: {},
        across: { term: 'payments', values: ['180', '360', '0'] },
        down: { term: 'annual', values: ['5%', '6%'] },
      },
      1,
    );
    expect(cells.slice(0, 2)).toMatchObject([{ payment: 84_386 }, { payment: 59_955 }]);
    expect(typeof cells[2]).toBe('string');
  });

  // A year of interest added each month grows the balance as the compound amount does: 1.061678 at 0.5 % over 12
  // (standard tables, from memory), and so every payment after it; paid meanwhile it stays as it is.
  it('show the difference of two policies in each cell', () => {
    const payments = {
      ...loan.payments,
      phases: [{ type: 'interest-only', count: 12 }, ...loan.payments.phases],
    };
    const deferred = { ...loan, payments } as LoanDocument;
    const [cell] = tryRow(
      deferred,
      {
        change: { meanwhile: 'added' },
        against: { meanwhile: 'paid' },
        across: { term: 'amount', values: ['100000.00'] },
        down: { term: 'annual', values: ['6%'] },
      },
      0,
    );
    expect(cell).toMatchObject({ payment: Math.round(59_955.0525 * 1.061678) - 59_955, last: 0 });
    expect(differenceCell(cell, 'payment', undefined, 2).text).toBe('+36.98');
    expect(differenceCell(cell, 'last', undefined, 2).text).toBe('same');
  });
});

describe('the values along a side of a grid', () => {
  it.each([
    [{ term: 'annual', from: '5', to: '6 1/8', by: 'half' }, 2, undefined],
    [{ term: 'annual', from: '5', to: '6 1/8', by: '0.5' }, 2, ['5%', '5.5%', '6%']],
    [{ term: 'amount', from: '1m', to: '1.2m', by: '100k' }, 2, ['1000000.00', '1100000.00', '1200000.00']],
    [{ term: 'amount', from: '10', to: '30', by: '10' }, 0, ['10', '20', '30']],
    [{ term: 'payments', from: '12', to: '36', by: '12' }, 2, ['12', '24', '36']],
    [{ term: 'payments', from: '1', to: '100', by: '1' }, 2, undefined],
    [{ term: 'payments', from: '10', to: '1', by: '1' }, 2, undefined],
    [{ term: 'payments', from: '1', to: '2', by: '0' }, 2, undefined],
  ] as const)('%j with %i decimals', (axis, digits, values) => {
    const read = axisValues(axis, digits);
    expect('values' in read ? read.values : undefined).toEqual(values);
  });
});
