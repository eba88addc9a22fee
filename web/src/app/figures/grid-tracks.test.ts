import { describe, expect, it } from 'vitest';
import type { GridColumn, GridRow } from './grid-model';
import { gridTracks } from './grid-tracks';

const column = (key: string, track: string, align: 'left' | 'right' = 'right'): GridColumn<string> => ({
  key,
  title: key,
  align,
  track,
  cell: (item) => item,
});
const rows = (...items: string[]): GridRow<string>[] =>
  items.map((item, at) => ({ type: 'item', id: String(at), item }));
const widths = (tracks: string): number[] => [...tracks.matchAll(/(\d+)px/g)].map(([, px]) => Number(px));

describe('columns of figures', () => {
  it('are as wide as asked for while every figure fits', () => {
    const { tracks, least } = gridTracks(
      [column('n', '56px'), column('paid', 'minmax(92px, 1fr)')],
      rows('7', '12'),
      undefined,
    );
    expect([tracks, least]).toEqual(['56px minmax(92px, 1fr)', 148]);
  });

  it('widen for the longest figure in any row, group or total, and say how much room they need', () => {
    const columns = [column('name', 'minmax(90px, 2fr)', 'left'), column('paid', 'minmax(80px, 1fr)')];
    const short = gridTracks(columns, rows('11,426.86'), undefined);
    const group: GridRow<string> = { type: 'group', id: 'all', cells: { paid: '9,876,543,210.00' } };
    const grouped = gridTracks(columns, [...rows('11,426.86'), group], undefined);
    const totalled = gridTracks(columns, rows('11,426.86'), { paid: '9,876,543,210.00' });
    // Seven digits of nine and a half pixels and two marks of four, with the padding at both sides; and twelve with four.
    expect(widths(short.tracks)).toEqual([90, 92]);
    expect(widths(totalled.tracks)[1]).toBeGreaterThan(12 * 9.46 + 4 * 4.07 + 16);
    expect(grouped).toEqual(totalled);
    expect(totalled.least).toBe(90 + (widths(totalled.tracks)[1] ?? 0));
    expect(totalled.tracks).toMatch(/^minmax\(90px, 2fr\) minmax\(\d+px, 1fr\)$/);
  });
});
