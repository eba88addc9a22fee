import type { CalendarDay } from '../calendar/calendar-day.ts';
import type { LoanTerms } from './loan-terms.ts';

/**
 * A loan's schedule as columns, one element a row, amounts in minor units.
 *
 * A row is dated `date`. Rows that charge interest carry the number of the payment in `n`; rows between (an
 * extra payment, a payment that came late) have `n` zero. `payment` is interest paid and scheduled principal,
 * `extra` is apart, `unpaid` is interest charged and still owed after the row.
 */
export interface LoanSchedule {
  readonly kind: 'loan';
  readonly terms: LoanTerms;
  readonly length: number;
  readonly n: Int32Array;
  /** The day the row takes effect. */
  readonly date: Int32Array;
  /** The day the payment was due; the same day unless it was recorded as paid before. */
  readonly due: Int32Array;
  readonly opening: Float64Array;
  readonly payment: Float64Array;
  readonly interest: Float64Array;
  readonly principal: Float64Array;
  readonly extra: Float64Array;
  readonly closing: Float64Array;
  readonly unpaid: Float64Array;
  /** Scheduled principal that fell due and was not paid, after the row. */
  readonly principalInArrears: Float64Array;
  /** The phase a row's payment belongs to. */
  readonly phase: Uint8Array;
  /** The payment of each phase as it was set when the phase began; zero for interest-only. */
  readonly phasePayments: readonly number[];
  readonly notices: readonly LoanNotice[];
}

/** Something the schedule did with an event that its author should know. */
export interface LoanNotice {
  readonly on: CalendarDay;
  readonly kind: 'extra-cut' | 'payment-cut' | 'event-without-effect';
  readonly stated: number;
  readonly applied: number;
}

type Column = keyof LoanSchedule & keyof ColumnTypes;
interface ColumnTypes {
  n: Int32Array;
  date: Int32Array;
  due: Int32Array;
  opening: Float64Array;
  payment: Float64Array;
  interest: Float64Array;
  principal: Float64Array;
  extra: Float64Array;
  closing: Float64Array;
  unpaid: Float64Array;
  principalInArrears: Float64Array;
  phase: Uint8Array;
}

/** Eight columns of amounts, three of whole numbers, one of small ones. */
const bytesPerRow = 8 * 8 + 3 * 4 + 1;

/** Columns being filled, with room for `capacity` rows. */
export type LoanColumns = { [K in Column]: ColumnTypes[K] } & { length: number };

/** Empty columns with room for so many rows; they share one buffer, which is far quicker to come by than many. */
export function loanColumns(capacity: number): LoanColumns {
  const buffer = new ArrayBuffer(capacity * bytesPerRow);
  let offset = 0;
  const take = <T>(make: new (on: ArrayBuffer, at: number, length: number) => T, bytes: number): T => {
    const column = new make(buffer, offset, capacity);
    offset += capacity * bytes;
    return column;
  };
  const amounts = (): Float64Array => take(Float64Array, 8);
  const numbers = (): Int32Array => take(Int32Array, 4);
  return {
    length: 0,
    opening: amounts(),
    payment: amounts(),
    interest: amounts(),
    principal: amounts(),
    extra: amounts(),
    closing: amounts(),
    unpaid: amounts(),
    principalInArrears: amounts(),
    n: numbers(),
    date: numbers(),
    due: numbers(),
    phase: take(Uint8Array, 1),
  };
}

/** One row of a schedule as an object, made when somebody looks. Amounts in minor units. */
export interface LoanRow {
  readonly index: number;
  readonly n: number | null;
  readonly date: CalendarDay;
  readonly due: CalendarDay;
  readonly opening: number;
  readonly payment: number;
  readonly interest: number;
  readonly principal: number;
  readonly extra: number;
  readonly closing: number;
  readonly unpaid: number;
}

/** A row as an object. Throws `RangeError` outside the schedule. */
export function loanRow(schedule: LoanSchedule, index: number): LoanRow {
  if (!Number.isInteger(index) || index < 0 || index >= schedule.length) {
    throw new RangeError(`The schedule has no row ${index}.`);
  }
  const at = (column: Float64Array | Int32Array): number => column[index] as number;
  return {
    index,
    n: at(schedule.n) || null,
    date: at(schedule.date),
    due: at(schedule.due),
    opening: at(schedule.opening),
    payment: at(schedule.payment),
    interest: at(schedule.interest),
    principal: at(schedule.principal),
    extra: at(schedule.extra),
    closing: at(schedule.closing),
    unpaid: at(schedule.unpaid),
  };
}

/** All rows as objects. */
export function loanRows(schedule: LoanSchedule): LoanRow[] {
  return Array.from({ length: schedule.length }, (_, index) => loanRow(schedule, index));
}

/** The last row dated on or before a day; −1 before the first. */
export function lastRowOn(date: Int32Array, length: number, on: CalendarDay): number {
  let low = 0;
  let high = length;
  while (low < high) {
    const middle = (low + high) >>> 1;
    if ((date[middle] as number) <= on) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}
