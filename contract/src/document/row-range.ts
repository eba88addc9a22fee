/** Rows from one payment number to another, both included. */
export interface RowRange {
  readonly from: number;
  readonly to: number;
}

/** Rows whose number is in the range, with the unnumbered rows between them. */
export function inRange<Row extends { n: number | null }>(rows: Row[], range?: RowRange): Row[] {
  if (!range) return rows;
  const first = rows.findIndex((row) => row.n !== null && row.n >= range.from);
  const last = rows.findLastIndex((row) => row.n !== null && row.n <= range.to);
  return first < 0 ? [] : rows.slice(first, last + 1);
}
