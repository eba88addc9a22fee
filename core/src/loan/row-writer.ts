import { formatDay, type CalendarDay } from '../calendar/calendar-day.ts';
import { FillingColumns, type AmountColumn, type RowKind } from './loan-columns.ts';
import { grainsPerMinorUnit, minorUnits, type LoanTerms } from './loan-terms.ts';

/** A row in grains. */
export interface ExactRow {
  readonly n: number;
  readonly kind: RowKind;
  readonly date: CalendarDay;
  readonly due: CalendarDay;
  readonly chargedTo: CalendarDay;
  readonly opening: bigint;
  readonly payment: bigint;
  readonly interest: bigint;
  readonly principal: bigint;
  readonly extra: bigint;
  readonly added: bigint;
  readonly closing: bigint;
  readonly unpaid: bigint;
  readonly principalInArrears: bigint;
  readonly fee: bigint;
  readonly setting: number;
}

const amountColumns: readonly AmountColumn[] = [
  'opening',
  'payment',
  'interest',
  'principal',
  'extra',
  'added',
  'closing',
  'unpaid',
  'principalInArrears',
  'fee',
];

/** Writes rows computed in grains into columns of minor units, keeping the unrounded amounts where there are any. */
export class RowWriter {
  readonly columns: FillingColumns;

  constructor(
    private readonly terms: LoanTerms,
    capacity: number,
  ) {
    this.columns = new FillingColumns(capacity, terms.amount);
    if (grainsPerMinorUnit(terms) > 1n) {
      this.columns.exact = Object.fromEntries(
        amountColumns.map((column) => [column, [] as bigint[]]),
      ) as Record<AmountColumn, bigint[]>;
    }
  }

  /** Writes a row. Throws `RangeError` when an amount is beyond what can be kept exactly. */
  write(row: ExactRow): void {
    const { exact } = this.columns;
    if (exact) for (const column of amountColumns) exact[column].push(row[column]);
    const minor = (amount: bigint): number => {
      const value = minorUnits(this.terms, amount);
      if (Number.isSafeInteger(value)) return value;
      throw new RangeError(`Amounts grew beyond what can be kept exactly by ${formatDay(row.date)}.`);
    };
    this.columns.write({
      ...row,
      payment: minor(row.payment),
      interest: minor(row.interest),
      principal: minor(row.principal),
      extra: minor(row.extra),
      added: minor(row.added),
      closing: minor(row.closing),
      unpaid: minor(row.unpaid),
      principalInArrears: minor(row.principalInArrears),
      fee: minor(row.fee),
    });
  }
}
