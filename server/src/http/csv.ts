import { stringify } from 'csv-stringify/sync';
import { csvForm } from '@coffer/contract';

/** Rows as CSV (RFC 4180) under a line of column names. */
export function writeCsv(
  columns: readonly string[],
  rows: readonly Readonly<Record<string, string | number | null | undefined>>[],
  header = true,
): string {
  const cells = rows.map((row) => columns.map((column) => row[column] ?? ''));
  return stringify(cells, { header, columns: [...columns], ...csvForm });
}
