import { minorOfGrains } from '../../money/grains.ts';
import { grainsOf } from '../../money/rounding.ts';
import { BeyondExact } from '../../faults/beyond-exact.ts';
import { formatDay, type CalendarDay } from '../../calendar/calendar-day.ts';
import { FillingColumns, type AmountColumn, type RowKind } from './loan-columns.ts';
import { type LoanTerms } from '../terms/loan-terms.ts';

/** What a row charges, pays and moves, in grains. */
export interface ExactRow {
  readonly n: number;
  readonly date: CalendarDay;
  readonly due: CalendarDay;
  readonly chargedTo: CalendarDay;
  readonly opening: bigint;
  readonly payment: bigint;
  readonly interest: bigint;
  readonly principal: bigint;
  readonly extra: bigint;
  readonly added: bigint;
  readonly fee: bigint;
}

/** What is owed after a row, in grains. */
export interface OwedAfter {
  readonly closing: bigint;
  readonly unpaid: bigint;
  readonly deferred: bigint;
  readonly principalInArrears: bigint;
  readonly overpaid: bigint;
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
  'deferred',
  'principalInArrears',
  'overpaid',
  'fee',
];

/** Writes rows computed in grains into columns of minor units, keeping the unrounded amounts where there are any. */
export class RowWriter {
  readonly columns: FillingColumns;
  private readonly grains: bigint;

  constructor(
    private readonly terms: LoanTerms,
    capacity: number,
  ) {
    this.columns = new FillingColumns(capacity, terms.amount);
    this.grains = grainsOf(terms);
    if (this.grains > 1n) {
      this.columns.exact = Object.fromEntries(
        amountColumns.map((column) => [column, [] as bigint[]]),
      ) as Record<AmountColumn, bigint[]>;
    }
  }

  /** Writes a row. Throws {@link BeyondExact} when an amount is beyond what can be kept exactly. */
  write(kind: RowKind, row: ExactRow, after: OwedAfter, setting: number): void {
    const { exact } = this.columns;
    if (exact) {
      const amounts = { ...row, ...after };
      for (const column of amountColumns) exact[column].push(amounts[column]);
    }
    this.columns.write({
      n: row.n,
      kind,
      date: row.date,
      due: row.due,
      chargedTo: row.chargedTo,
      payment: this.minor(row.payment, row.date),
      interest: this.minor(row.interest, row.date),
      principal: this.minor(row.principal, row.date),
      extra: this.minor(row.extra, row.date),
      added: this.minor(row.added, row.date),
      closing: this.minor(after.closing, row.date),
      unpaid: this.minor(after.unpaid, row.date),
      deferred: this.minor(after.deferred, row.date),
      principalInArrears: this.minor(after.principalInArrears, row.date),
      overpaid: this.minor(after.overpaid, row.date),
      fee: this.minor(row.fee, row.date),
      setting,
    });
  }

  private minor(amount: bigint, on: CalendarDay): number {
    const value = minorOfGrains(amount, this.grains, this.terms.rounding.ties);
    if (Number.isSafeInteger(value)) return value;
    throw new BeyondExact(
      `Amounts grew beyond what can be kept exactly by ${formatDay(on)}; check the amount, the rate and the term.`,
    );
  }
}
