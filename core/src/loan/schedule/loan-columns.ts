import type { CalendarDay } from '../../calendar/calendar-day.ts';
import type { Count, MinorUnits } from '../../units/units.ts';

/** What a row is, in the order of the codes kept in the `rowKind` column. */
export const rowKinds = [
  'payment',
  'extra',
  'late-payment',
  'overdue-payment',
  'early-payment',
  'draw',
  'interest-added',
  'settlement',
  'overpayment-returned',
] as const;

export type RowKind = (typeof rowKinds)[number];

/** The columns of amounts. */
export type AmountColumn =
  | 'opening'
  | 'payment'
  | 'interest'
  | 'principal'
  | 'extra'
  | 'added'
  | 'closing'
  | 'unpaid'
  | 'deferred'
  | 'principalInArrears'
  | 'overpaid'
  | 'fee';

/** Amounts in grains (see `grainsOf`), one element a row. */
export type ExactColumns = Readonly<Record<AmountColumn, bigint[]>>;

/** A schedule's rows as columns, one element a row, amounts in minor units. `length` of them are in use. */
export interface LoanColumns {
  readonly length: number;
  readonly n: Int32Array;
  /** The day the row takes effect. */
  readonly date: Int32Array;
  /** The day the payment was due; the same day unless it was paid before or came late. */
  readonly due: Int32Array;
  /** The day that interest has been charged to, after the row. */
  readonly chargedTo: Int32Array;
  readonly opening: Float64Array;
  readonly payment: Float64Array;
  readonly interest: Float64Array;
  readonly principal: Float64Array;
  readonly extra: Float64Array;
  readonly added: Float64Array;
  readonly closing: Float64Array;
  readonly unpaid: Float64Array;
  /** Of what is unpaid the interest kept apart by agreement, which is not due yet. */
  readonly deferred: Float64Array;
  /** Scheduled principal that fell due and was not paid, after the row. */
  readonly principalInArrears: Float64Array;
  /** What was paid beyond all that was owed, and has neither come back nor settled a payment, after the row. */
  readonly overpaid: Float64Array;
  /** Fee on the unused part of a credit line, charged with the row. */
  readonly fee: Float64Array;
  readonly rowKind: Uint8Array;
  readonly setting: Uint16Array;
  /** The unrounded amounts, in grains, where the terms do not round. */
  readonly exact?: ExactColumns | undefined;
}

/** The amounts of a row beside the balance that it opens with. Minor units. */
export interface RowAmounts {
  readonly payment: MinorUnits;
  readonly interest: MinorUnits;
  readonly principal: MinorUnits;
  readonly extra: MinorUnits;
  readonly added: MinorUnits;
  readonly closing: MinorUnits;
  readonly unpaid: MinorUnits;
  readonly deferred: MinorUnits;
  readonly overpaid: MinorUnits;
  readonly fee: MinorUnits;
}

/** A row about to be written. */
export interface NewRow extends RowAmounts {
  readonly n: Count;
  readonly kind: RowKind;
  readonly date: CalendarDay;
  readonly due: CalendarDay;
  readonly chargedTo: CalendarDay;
  readonly principalInArrears: MinorUnits;
  readonly setting: Count;
}

/** Most loans never use these amounts: they share one column of zeros until the first that is not zero. */
const seldomUsed = ['extra', 'added', 'unpaid', 'deferred', 'principalInArrears', 'overpaid', 'fee'] as const;
type SeldomUsed = (typeof seldomUsed)[number];

let zeros = new Float64Array(1024);

function zeroColumn(capacity: number): Float64Array {
  if (zeros.length < capacity) zeros = new Float64Array(2 * capacity);
  return zeros;
}

/**
 * Columns being filled. Little memory is what makes large portfolios fast: the opening balances are the closing ones
 * seen one row later, and due days and seldom used amounts share storage until they differ.
 */
export class FillingColumns implements LoanColumns {
  length = 0;
  n!: Int32Array;
  date!: Int32Array;
  due!: Int32Array;
  chargedTo!: Int32Array;
  opening!: Float64Array;
  closing!: Float64Array;
  payment!: Float64Array;
  interest!: Float64Array;
  principal!: Float64Array;
  extra: Float64Array;
  added: Float64Array;
  unpaid: Float64Array;
  deferred: Float64Array;
  principalInArrears: Float64Array;
  overpaid: Float64Array;
  fee: Float64Array;
  rowKind!: Uint8Array;
  setting!: Uint16Array;
  exact: ExactColumns | undefined;
  private capacity = 0;
  private readonly own = new Set<SeldomUsed>();

  /**
   * @param capacity rows to make room for at first; more is made when it is needed
   * @param amount balance before the first row, minor units
   */
  constructor(capacity: number, amount: number) {
    this.extra =
      this.added =
      this.unpaid =
      this.deferred =
      this.principalInArrears =
      this.overpaid =
      this.fee =
        zeroColumn(capacity);
    this.makeRoom(capacity);
    this.opening[0] = amount;
  }

  /** Makes sure that so many rows fit. */
  reserve(rows: number): void {
    if (rows > this.capacity) this.makeRoom(Math.max(rows, 2 * this.capacity));
  }

  /** Writes a row whose opening balance is the closing balance of the one before. */
  write(row: NewRow): void {
    this.reserve(this.length + 1);
    const at = this.length;
    this.n[at] = row.n;
    this.setDay('due', at, row.date, row.due);
    this.setDay('chargedTo', at, row.date, row.chargedTo);
    this.date[at] = row.date;
    this.payment[at] = row.payment;
    this.interest[at] = row.interest;
    this.principal[at] = row.principal;
    this.closing[at] = row.closing;
    this.setSeldom('extra', at, row.extra);
    this.setSeldom('added', at, row.added);
    this.setSeldom('unpaid', at, row.unpaid);
    this.setSeldom('deferred', at, row.deferred);
    this.setSeldom('principalInArrears', at, row.principalInArrears);
    this.setSeldom('overpaid', at, row.overpaid);
    this.setSeldom('fee', at, row.fee);
    this.rowKind[at] = rowKinds.indexOf(row.kind);
    this.setting[at] = row.setting;
    this.length = at + 1;
  }

  private setDay(column: 'due' | 'chargedTo', at: number, date: number, value: number): void {
    if (this[column] === this.date) {
      if (value === date) return;
      this[column] = this.date.slice();
    }
    this[column][at] = value;
  }

  private setSeldom(column: SeldomUsed, at: number, value: number): void {
    if (!this.own.has(column)) {
      if (value === 0) return;
      this.own.add(column);
      this[column] = new Float64Array(this.capacity);
    }
    this[column][at] = value;
  }

  private makeRoom(capacity: number): void {
    const before = this.capacity === 0 ? undefined : { ...this };
    const buffer = new ArrayBuffer(capacity * (4 * 8 + 2 * 4 + 2 + 1) + 8);
    const balances = new Float64Array(buffer, 0, capacity + 1);
    let offset = (capacity + 1) * 8;
    const take = <T>(make: new (on: ArrayBuffer, at: number, length: number) => T, bytes: number): T => {
      const column = new make(buffer, offset, capacity);
      offset += capacity * bytes;
      return column;
    };
    this.opening = balances.subarray(0, capacity);
    this.closing = balances.subarray(1);
    this.payment = take(Float64Array, 8);
    this.interest = take(Float64Array, 8);
    this.principal = take(Float64Array, 8);
    this.n = take(Int32Array, 4);
    this.date = take(Int32Array, 4);
    this.setting = take(Uint16Array, 2);
    this.rowKind = take(Uint8Array, 1);
    this.capacity = capacity;
    if (!before) {
      this.due = this.chargedTo = this.date;
      return;
    }
    for (const column of ['opening', 'closing', 'payment', 'interest', 'principal'] as const) {
      this[column].set(before[column]);
    }
    this.n.set(before.n);
    this.date.set(before.date);
    this.setting.set(before.setting);
    this.rowKind.set(before.rowKind);
    for (const column of ['due', 'chargedTo'] as const) {
      if (before[column] === before.date) this[column] = this.date;
      else (this[column] = new Int32Array(capacity)).set(before[column]);
    }
    for (const column of seldomUsed) {
      if (this.own.has(column)) (this[column] = new Float64Array(capacity)).set(before[column]);
      else this[column] = zeroColumn(capacity);
    }
  }
}
