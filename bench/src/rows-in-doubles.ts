/** Columns that the plain loop writes into. */
export interface PlainColumns {
  length: number;
  readonly n: Int32Array;
  readonly date: Int32Array;
  readonly due: Int32Array;
  readonly opening: Float64Array;
  readonly payment: Float64Array;
  readonly interest: Float64Array;
  readonly principal: Float64Array;
  readonly closing: Float64Array;
}

/** Empty columns with room for so many rows. */
export function plainColumns(rows: number): PlainColumns {
  const numbers = (): Int32Array => new Int32Array(rows);
  const amounts = (): Float64Array => new Float64Array(rows);
  return {
    length: 0,
    n: numbers(),
    date: numbers(),
    due: numbers(),
    opening: amounts(),
    payment: amounts(),
    interest: amounts(),
    principal: amounts(),
    closing: amounts(),
  };
}

/**
 * Level payments in plain doubles, for comparison only: a half cent is rounded wrongly where balance × rate falls
 * just beside it.
 */
export function fillRowsInDoubles(
  columns: PlainColumns,
  dues: Int32Array,
  count: number,
  amount: number,
  level: number,
  growth: number,
): number {
  const { n, date, due, opening, payment, interest, principal, closing } = columns;
  let balance = amount;
  let row = 0;
  while (row < count) {
    const charged = Math.round(balance * growth);
    const repaid = level - charged;
    if (repaid < 0 || repaid >= balance) break;
    const day = dues[row] as number;
    n[row] = row + 1;
    date[row] = day;
    due[row] = day;
    opening[row] = balance;
    payment[row] = level;
    interest[row] = charged;
    principal[row] = repaid;
    balance -= repaid;
    closing[row] = balance;
    row += 1;
  }
  columns.length = row;
  return row;
}
