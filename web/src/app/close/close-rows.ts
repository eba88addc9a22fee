import { type CloseRow, type CloseView, type FiguresView, showAmount, showMovement } from '@coffer/contract';
import type { GridColumn, GridRow } from '../figures/grid-model';

/** What stands in interest payable for an instrument. */
function interestPayable({ accruedInterest, accruedFee, unpaidInterest }: FiguresView): number {
  return accruedInterest + accruedFee + unpaidInterest;
}

/** The columns of the close. */
export function closeColumns(digits: number): GridColumn<CloseRow>[] {
  const figure = (
    key: string,
    title: string,
    cell: (row: CloseRow) => string,
    tone?: 'interest',
  ): GridColumn<CloseRow> => ({
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
      cell: (row) => row.name,
    },
    figure('accrued', 'Accrued', ({ figures }) => showAmount(interestPayable(figures), digits), 'interest'),
    figure('expense', 'Expense', (row) => showMovement(row.expense, digits)),
    figure('amortized', 'Amortized', (row) => showMovement(row.amortized, digits)),
    figure('carrying', 'Carrying', ({ figures }) => showAmount(figures.carrying, digits)),
    figure('current', 'Current', ({ figures }) => showAmount(figures.current, digits)),
  ];
}

/** The rows of the close. */
export function closeRows(view: CloseView): GridRow<CloseRow>[] {
  return view.rows.map((item) => ({ type: 'item', id: item.id, item }));
}

/** Sums over all instruments. */
export interface CloseSums {
  /** Interest and fees accrued, unpaid and deferred: what stands in interest payable. */
  readonly payable: number;
  readonly expense: number;
  readonly amortized: number;
  readonly carrying: number;
  readonly current: number;
}

/** Adds up the rows of the close. */
export function closeSums({ rows }: CloseView): CloseSums {
  const sum = (of: (row: CloseRow) => number): number => rows.reduce((total, row) => total + of(row), 0);
  return {
    payable: sum(({ figures }) => interestPayable(figures)),
    expense: sum((row) => row.expense),
    amortized: sum((row) => row.amortized),
    carrying: sum(({ figures }) => figures.carrying),
    current: sum(({ figures }) => figures.current),
  };
}
