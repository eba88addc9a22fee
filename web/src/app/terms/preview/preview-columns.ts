import { showDay, showDecimal } from '@coffer/contract';
import type { GridColumn } from '../../figures/grid-model';
import type { PreviewRow, SchedulePreview } from './schedule-preview';

/** Columns that stand at a balance, zero included. */
const standing: readonly string[] = ['opening', 'closing', 'unamortized'];

type Made = Pick<SchedulePreview, 'titles'>;

/** A column of amounts, called as the kind calls it. */
export function figure(
  { titles }: Made,
  key: string,
  tone?: 'principal' | 'interest',
): GridColumn<PreviewRow> {
  return {
    key,
    title: titles[key] ?? '',
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
export function rowHead({ titles }: Made): readonly GridColumn<PreviewRow>[] {
  const [n = '', due = ''] = [titles['n'], titles['due']];
  return [
    { key: 'n', title: n, align: 'right', track: '36px', cell: (row) => String(row['n'] ?? '') },
    { key: 'due', title: due, align: 'left', track: '106px', cell: (row) => showDay(String(row['due'])) },
  ];
}

/** Columns that only some loans and lines have something in. */
export function seldomColumns(made: SchedulePreview): GridColumn<PreviewRow>[] {
  const { rows, totals } = made;
  const { drawn, addedInterest, fee } = totals;
  return [
    ...(drawn ? [figure(made, 'drawn')] : []),
    ...(addedInterest ? [figure(made, 'addedInterest')] : []),
    ...(rows.some((row) => row['unpaidInterest'] !== undefined) ? [figure(made, 'unpaidInterest')] : []),
    ...(fee ? [figure(made, 'fee')] : []),
  ];
}
