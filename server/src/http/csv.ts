import { stringify } from 'csv-stringify/sync';

/** Text that a reader of tables would take for a formula, marked so that it stays text. */
export function plainText(text: string): string {
  return /^[=+\-@\t\r＝＋－＠]/.test(text) && !/^-?\d+(\.\d+)?$/.test(text) ? `'${text}` : text;
}

/** Rows as CSV (RFC 4180) under a line of column names. */
export function writeCsv(
  columns: readonly string[],
  rows: readonly Readonly<Record<string, string | number | null | undefined>>[],
  header = true,
): string {
  const plain = rows.map((row) =>
    columns.map((column) => {
      const value = row[column] ?? '';
      return typeof value === 'string' ? plainText(value) : value;
    }),
  );
  return stringify(plain, { header, columns: [...columns], record_delimiter: 'windows' });
}
