import type { CloseRow, CloseView } from '../api/close-views.ts';

/** What the books hold of an instrument at the end of a month, and book in it; minor units. */
export interface BookedRow {
  readonly row: CloseRow;
  /** What stands in interest payable: interest and fees accrued, and unpaid. */
  readonly accrued: number;
  readonly expense: number;
  readonly amortized: number;
  readonly carrying: number;
  readonly current: number;
  readonly nonCurrent: number;
}

/** The rows of a close as they are booked: without what is too small for that. */
export function bookedRows({ rows, notBooked }: Pick<CloseView, 'rows' | 'notBooked'>): BookedRow[] {
  const less = new Map(notBooked.map((one) => [one.id, one]));
  return rows.map((row) => {
    const { figures } = row;
    const off = less.get(row.id) ?? { accrued: 0, expense: 0, amortized: 0, carrying: 0 };
    return {
      row,
      accrued: figures.accruedInterest + figures.accruedFee + figures.unpaidInterest - off.accrued,
      expense: row.expense - off.expense,
      amortized: row.amortized - off.amortized,
      carrying: figures.carrying - off.carrying,
      current: figures.current,
      nonCurrent: figures.nonCurrent - off.carrying,
    };
  });
}
