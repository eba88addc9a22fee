import {
  withTried,
  type OutlookView,
  type PortfolioRow,
  type PortfolioView,
  type TriedRow,
} from '@coffer/contract';
import { describe, expect, it } from 'vitest';
import {
  periodName,
  portfolioCells,
  portfolioColumns,
  portfolioGroups,
  portfolioRows,
  sumsOf,
  type PortfolioLine,
} from './portfolio-rows';
import { differenceCells } from './portfolio-tried';

const row = (name: string, more: Partial<PortfolioRow>): PortfolioRow => ({
  id: name,
  name,
  lender: null,
  class: 'bond',
  floating: false,
  values: [100, 0],
  off: 0,
  ...more,
});
const view: PortfolioView = {
  periods: [
    { from: '2026-10-01', to: '2026-10-31' },
    { from: '2026-11-01', to: '2026-11-30' },
  ],
  rows: [
    row('Bonds', {}),
    row('Kiln loan', { class: 'term-loan', lender: 'Quillhaven', values: [250, 40_000] }),
    row('Lehr loan', { class: 'term-loan', lender: 'Osier', floating: true, values: [1, 2] }),
  ],
  unworkable: [],
};

describe('a portfolio in rows', () => {
  it('is subtotalled by class in the order of the register, by lender and by rate', () => {
    const named = (by: 'class' | 'lender' | 'rate'): unknown =>
      portfolioGroups(view, by).map(({ name, sums }) => [name, sums]);
    expect(named('class')).toEqual([
      ['Mortgages and term loans', [251, 40_002]],
      ['Bonds', [100, 0]],
    ]);
    expect(named('lender')).toEqual([
      ['No lender named', [100, 0]],
      ['Osier', [1, 2]],
      ['Quillhaven', [250, 40_000]],
    ]);
    expect(named('rate')).toEqual([
      ['Fixed rate', [350, 40_000]],
      ['Floating rate', [1, 2]],
    ]);
  });

  it('totals what its groups do, whatever they are', () => {
    for (const by of ['class', 'lender', 'rate'] as const) {
      const groups = portfolioGroups(view, by);
      const all = groups.reduce((sum, { sums }) => sum + (sums[0] ?? 0) + (sums[1] ?? 0), 0);
      expect(all).toBe(sumsOf(view.rows, 2).reduce((sum, value) => sum + value, 0));
    }
  });

  it('keeps the sums of a folded group, with how many it holds', () => {
    const groups = portfolioGroups(view, 'class');
    const rows = portfolioRows(groups, view, new Set(['Mortgages and term loans']), 2);
    expect(rows.map(({ id }) => id)).toEqual(['Mortgages and term loans', 'Bonds', 'Bonds']);
    expect(rows[0]).toMatchObject({
      cells: { name: '▸ Mortgages and term loans 2', '2026-10-31': '2.51', '2026-11-30': '400.02' },
    });
  });

  it('shows a dash where nothing is, and amounts by period', () => {
    const [, october, november] = portfolioColumns(view, 'month', 2);
    const bonds: PortfolioLine = { row: view.rows[0] as PortfolioRow, as: 'agreed' };
    expect([october?.title, november?.title]).toEqual(['Oct 2026', 'Nov 2026']);
    expect([october?.cell(bonds), november?.cell(bonds)]).toEqual(['1.00', '–']);
    expect(portfolioCells('All', [0, 5], view, 2)).toEqual({
      name: 'All',
      '2026-10-31': '–',
      '2026-11-30': '0.05',
    });
  });

  it('calls a quarter by the month it ends with, a fiscal year by the year it ends in', () => {
    expect([periodName('2026-12-31', 'quarter'), periodName('2027-06-30', 'year')]).toEqual([
      'to Dec 2026',
      'FY 2027',
    ]);
  });
});

describe('a portfolio under a scenario', () => {
  const outlook: OutlookView = { interest: 0, months: [], owedAfter: 0, ends: '2030-01-31', left: 0 };
  const changed: TriedRow = {
    ...(view.rows[1] as PortfolioRow),
    values: [250, 90_000],
    asItIs: outlook,
    changed: outlook,
  };
  const tried = new Map([[changed.id, changed]]);
  const now = withTried(view, tried);
  const rows = (folded: string[]): ReturnType<typeof portfolioRows> =>
    portfolioRows(portfolioGroups(now, 'class'), now, new Set(folded), 2, {
      tried,
      before: view,
      note: () => 'paid faster',
    });

  it('shows what is changed above how it was, marks what differs only, and says what comes of it', () => {
    const [, line, before, note] = rows([]);
    expect([line?.id, before?.id, note?.id]).toEqual(['Kiln loan', 'Kiln loan:before', 'Kiln loan:note']);
    expect(note).toMatchObject({ text: 'paid faster' });
    const [, october, november] = portfolioColumns(now, 'month', 2);
    if (line?.type !== 'item' || before?.type !== 'item') throw new Error('no lines');
    expect([october?.cell(line.item), november?.cell(line.item)]).toEqual([
      '2.50',
      { text: '900.00', draft: true },
    ]);
    expect(november?.cell(before.item)).toBe('400.00');
  });

  it('keeps what is changed in view in a folded group, and tells the difference of the whole', () => {
    expect(rows(['Mortgages and term loans']).map(({ id }) => id)).toEqual([
      'Mortgages and term loans',
      'Kiln loan',
      'Kiln loan:before',
      'Kiln loan:note',
      'Bonds',
      'Bonds',
    ]);
    const cells = differenceCells(sumsOf(now.rows, 2), sumsOf(view.rows, 2), view, 2);
    expect([cells['2026-10-31'], cells['2026-11-30']]).toEqual(['–', '+500.00']);
  });
});
