import { describe, expect, it } from 'vitest';
import { withFixings, withoutDay, type Draft } from './drafts';
import { fixingsOfTable, readRate } from './fixings-of-table';

const only = (rows: string[][]): readonly { on: string; rate: string }[] =>
  fixingsOfTable(rows).indexes[0]?.fixings ?? [];

describe('fixings from a table', () => {
  it('are a date and a rate in each line, under titles, in either way of writing decimals', () => {
    const rows = [
      ['Rates of the quarter', ''],
      ['Date', 'Rate, %'],
      ['2026-07-15', '2.58'],
      ['', ''],
      ['15.10.2026', '-0.125 %'],
    ];
    expect(only(rows)).toEqual([
      { on: '2026-07-15', rate: '2.58%' },
      { on: '2026-10-15', rate: '-0.125%' },
    ]);
    // A comma before three digits parts no thousands of percent.
    expect(
      only([
        ['15.07.2026', '2,580'],
        ['15.10.2026', '2,495'],
      ])[0],
    ).toEqual({ on: '2026-07-15', rate: '2.580%' });
    expect(only([['7/15/2026', '2.58']])).toEqual([{ on: '2026-07-15', rate: '2.58%' }]);
  });

  it('are of several indexes where each line names one', () => {
    const rows = [
      ['Index', 'Day', 'Rate'],
      ['Norbay three-month rate', '15 Oct 2026', '2.495'],
      ['Tessaly base rate', '1 Sep 2026', '3.25'],
      ['Norbay three-month rate', '15 Jul 2026', '2.58'],
    ];
    expect(fixingsOfTable(rows).indexes).toEqual([
      {
        name: 'Norbay three-month rate',
        fixings: [
          { on: '2026-10-15', rate: '2.495%' },
          { on: '2026-07-15', rate: '2.58%' },
        ],
      },
      { name: 'Tessaly base rate', fixings: [{ on: '2026-09-01', rate: '3.25%' }] },
    ]);
  });

  it('of a workbook that shows percent are shares, which is said; small rates typed as such are not', () => {
    const shares = fixingsOfTable([
      ['46218', '0.0258'],
      ['46310', '0.02495'],
    ]);
    expect(shares.indexes[0]?.fixings[1]).toEqual({ on: '2026-10-15', rate: '2.495%' });
    expect(shares.notes).toEqual(['The rates are taken for shares of one: 0.0258 is 2.58%.']);
    expect(only([['2026-10-15', '0.25']])).toEqual([{ on: '2026-10-15', rate: '0.25%' }]);
  });

  it('that cannot be read are told by their line, and the others stand', () => {
    const rows = [
      ['2026-07-15', '2.58'],
      ['2026-10-15', 'n/a'],
      ['2026-07-15', '2.60'],
      ['later', '2.4'],
      ['2026-12-15'],
    ];
    const { indexes, faults } = fixingsOfTable(rows);
    expect(indexes[0]?.fixings).toEqual([{ on: '2026-07-15', rate: '2.58%' }]);
    expect(faults.map((fault) => fault.slice(0, 6)).sort()).toEqual(['Line 2', 'Line 3', 'Line 4', 'Line 5']);
    expect(fixingsOfTable([['nothing', 'here']]).indexes).toEqual([]);
  });
});

describe('a rate that is typed', () => {
  it.each([
    ['2.495', '2.495%'],
    ['2 1/2 %', '2.5%'],
    ['−0.25', '-0.25%'],
    ['-0', '0%'],
    ['1001', undefined],
    ['two', undefined],
    ['', undefined],
  ])('%s', (typed, rate) => {
    expect(readRate(typed)).toBe(rate);
  });
});

describe('drafts', () => {
  const kept = [{ on: '2026-07-15', rate: '2.580%', source: 'typed' as const, by: null, at: '' }];
  const draft = (...fixings: Draft['fixings'][number][]): Draft => ({
    index: 'Norbay',
    source: 'typed',
    fixings,
  });

  it('hold what is not kept so, the newest of a day, and go where nothing is left of them', () => {
    const one = withFixings(
      new Map(),
      draft({ on: '2026-10-15', rate: '2.4%' }, { on: '2026-07-15', rate: '2.58%' }),
      kept,
    );
    expect(one.get('norbay')?.fixings).toEqual([{ on: '2026-10-15', rate: '2.4%' }]);
    const two = withFixings(one, { ...draft({ on: '2026-10-15', rate: '2.5%' }), index: ' NORBAY ' }, kept);
    expect([...two.values()]).toEqual([draft({ on: '2026-10-15', rate: '2.5%' })]);
    expect(withFixings(two, draft({ on: '2026-10-15', rate: null }), kept).size).toBe(0);
    expect(withoutDay(two, 'norbay', '2026-10-15').size).toBe(0);
    const back = withFixings(new Map(), draft({ on: '2026-07-15', rate: null }), kept);
    expect(back.get('norbay')?.fixings).toEqual([{ on: '2026-07-15', rate: null }]);
  });
});
