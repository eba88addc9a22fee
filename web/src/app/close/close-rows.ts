import { bookedRows, showAmount, showMovement, type BookedRow, type CloseView } from '@coffer/contract';
import type { GridColumn, GridRow } from '../figures/grid-model';

/** The columns of the close: of each instrument what the books hold. */
export function closeColumns(digits: number): GridColumn<BookedRow>[] {
  const figure = (
    key: string,
    title: string,
    cell: (booked: BookedRow) => string,
    tone?: 'interest',
  ): GridColumn<BookedRow> => ({
    key,
    title,
    align: 'right',
    track: key === 'carrying' ? 'minmax(112px, 1.2fr)' : 'minmax(92px, 1fr)',
    explains: true,
    ...(tone && { tone }),
    cell,
  });
  return [
    {
      key: 'name',
      title: 'Instrument',
      align: 'left',
      track: 'minmax(170px, 1.9fr)',
      explains: true,
      cell: ({ row }) => row.name,
    },
    figure('accrued', 'Accrued', ({ accrued }) => showAmount(accrued, digits), 'interest'),
    figure('expense', 'Expense', ({ expense }) => showMovement(expense, digits)),
    figure('amortized', 'Amortized', ({ amortized }) => showMovement(amortized, digits)),
    figure('carrying', 'Carrying', ({ carrying }) => showAmount(carrying, digits)),
    figure('current', 'Current', ({ current }) => showAmount(current, digits)),
  ];
}

/** The rows of the close. */
export function closeRows(view: CloseView): GridRow<BookedRow>[] {
  return bookedRows(view).map((item) => ({ type: 'item', id: item.row.id, item }));
}

/** Sums over all instruments. */
export type CloseSums = Pick<BookedRow, 'accrued' | 'expense' | 'amortized' | 'carrying' | 'current'>;

/** Adds up the rows of the close. */
export function closeSums(view: CloseView): CloseSums {
  const rows = bookedRows(view);
  const sum = (of: (booked: BookedRow) => number): number => rows.reduce((total, row) => total + of(row), 0);
  return {
    accrued: sum(({ accrued }) => accrued),
    expense: sum(({ expense }) => expense),
    amortized: sum(({ amortized }) => amortized),
    carrying: sum(({ carrying }) => carrying),
    current: sum(({ current }) => current),
  };
}
