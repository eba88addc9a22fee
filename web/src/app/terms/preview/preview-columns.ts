import { showDay, showDecimal } from '@coffer/contract';
import type { GridColumn } from '../../figures/grid-model';
import type { PreviewRow } from './schedule-preview';

/** Columns that stand at a balance, zero included. */
const standing: readonly string[] = ['opening', 'closing', 'unamortized'];

/** A column of amounts. */
export function figure(key: string, title: string, tone?: 'principal' | 'interest'): GridColumn<PreviewRow> {
  return {
    key,
    title,
    align: 'right',
    track: 'minmax(64px, 1fr)',
    ...(tone && { tone }),
    cell: (row) => shownFigure(key, row[key]),
  };
}

/** An amount of a column; a dash where there is none. */
export function shownFigure(key: string, value: string | number | null | undefined): string {
  const text = String(value ?? '');
  return !standing.includes(key) && Number(text) === 0 ? '–' : showDecimal(text);
}

/** Number and day of a row. */
export const rowHead: readonly GridColumn<PreviewRow>[] = [
  { key: 'n', title: 'No.', align: 'right', track: '36px', cell: (row) => String(row['n'] ?? '') },
  { key: 'due', title: 'Due', align: 'left', track: '106px', cell: (row) => showDay(String(row['due'])) },
];

/** Columns that only some loans and lines have something in. */
export function seldomColumns(
  rows: readonly PreviewRow[],
  totals: Readonly<Record<string, string>>,
): GridColumn<PreviewRow>[] {
  const { drawn, addedInterest, fee } = totals;
  return [
    ...(drawn ? [figure('drawn', 'Drawn')] : []),
    ...(addedInterest ? [figure('addedInterest', 'Added')] : []),
    ...(rows.some((row) => row['unpaidInterest'] !== undefined) ? [figure('unpaidInterest', 'Unpaid')] : []),
    ...(fee ? [figure('fee', 'Unused fee')] : []),
  ];
}
