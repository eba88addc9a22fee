/** Rows that one statement takes, well below the database's limit of 65,535 values. */
const rowsAtOnce = 1000;

/** Writes rows in statements of a bearable size, one after another. */
export async function inChunks<Row>(
  rows: readonly Row[],
  write: (chunk: Row[]) => PromiseLike<unknown>,
): Promise<void> {
  for (let at = 0; at < rows.length; at += rowsAtOnce) await write(rows.slice(at, at + rowsAtOnce));
}
