import type { CalendarDay } from '../../calendar/calendar-day.ts';
import type { PartGrowth } from '../interest/interest-segment.ts';
import type { RateTimeline } from '../../rates/rate-timeline.ts';
import { firstAbove } from '../../search/first-above.ts';
import {
  rowKinds,
  type AmountColumn,
  type LoanColumns,
  type RowAmounts,
  type RowKind,
} from './loan-columns.ts';
import type { LoanTerms } from '../terms/loan-terms.ts';
import type { Receipts } from '../payment/receipts.ts';
import type { Stretch } from '../terms/stretch.ts';
import type { Count, MinorUnits } from '../../units/units.ts';

/**
 * A loan's schedule as columns, one element a row, amounts in minor units.
 *
 * A row is dated `date`. Rows of due dates carry the number of the payment in `n`; rows between (an extra payment, a
 * draw, a payment that came late) have `n` zero. `payment` is interest paid and scheduled principal, `extra` is
 * apart, `added` joins the balance (a draw, or interest), `unpaid` is interest charged and still owed after the row.
 * Where nothing is rounded the columns hold what is shown and `exact` what is computed with.
 */
export interface LoanSchedule extends LoanColumns {
  readonly kind: 'loan' | 'credit-line';
  readonly terms: LoanTerms;
  readonly stretches: readonly Stretch[];
  readonly rates: RateTimeline;
  /** Each time a payment was set, in order; `setting` of a row points here. */
  readonly settings: readonly PaymentSetting[];
  readonly notices: readonly LoanNotice[];
  /** What was recorded as paid, by due date. */
  readonly receipts: Receipts;
  readonly settlement: Settlement | undefined;
}

/** How and when a payment was set. Amounts in grains. */
export interface PaymentSetting {
  /** `interest`: the payment is the period's interest; `principal`: interest is added to the amount. */
  readonly kind: 'level' | 'agreed' | 'changed' | 'listed' | 'principal' | 'interest' | 'none';
  /** Whether it replaces an earlier payment of the same stretch. */
  readonly anew: boolean;
  readonly stretch: number;
  /** Place in the stretch of the first payment it applies to. */
  readonly at: number;
  readonly amount: bigint;
  /** The balance it was set from. */
  readonly balance: bigint;
  /** Payments that the balance is spread over, for a level payment or equal principal. */
  readonly over: number;
  /** Place among the rates of the one that a level payment was set with. */
  readonly rate: number;
  /** Growth of the balance over the first period, where it was not a whole period at one rate. */
  readonly firstGrowth: PartGrowth | undefined;
  /** Grains of interest accrued before the loan was taken on that the payment also pays. */
  readonly broughtIn: bigint;
  /** The day a changed payment was agreed from. */
  readonly on?: CalendarDay;
}

/** What was owed and paid when a loan was settled before its time. Minor units. */
export interface Settlement {
  readonly on: CalendarDay;
  readonly row: Count;
  readonly owed: MinorUnits;
  readonly paid: MinorUnits;
}

/** Something the schedule did with an event that its author should know. Minor units. */
export interface LoanNotice {
  readonly on: CalendarDay;
  readonly kind:
    | 'extra-cut'
    | 'overpaid'
    | 'event-without-effect'
    | 'listed-payment-differs'
    | 'last-payment-large'
    | 'fixing-missing'
    | 'gap'
    | 'left-at-end'
    | 'overdue-at-end';
  readonly stated: MinorUnits;
  readonly applied: MinorUnits;
}

/** One row of a schedule as an object, made when somebody looks. Amounts in minor units. */
export interface LoanRow extends RowAmounts {
  readonly index: Count;
  readonly n: Count | null;
  readonly kind: RowKind;
  readonly date: CalendarDay;
  readonly due: CalendarDay;
  readonly opening: MinorUnits;
}

/**
 * A row as an object. Throws `RangeError` outside the schedule.
 *
 * @example
 * loanRow(loan, 0).closing // 92_115
 */
export function loanRow(schedule: LoanSchedule, index: Count): LoanRow {
  if (!Number.isInteger(index) || index < 0 || index >= schedule.length) {
    throw new RangeError(`The schedule has no row ${index}.`);
  }
  const at = (column: Float64Array | Int32Array): number => column[index] as number;
  return {
    index,
    n: at(schedule.n) || null,
    kind: kindOfRow(schedule, index),
    date: at(schedule.date),
    due: at(schedule.due),
    opening: at(schedule.opening),
    payment: at(schedule.payment),
    interest: at(schedule.interest),
    principal: at(schedule.principal),
    extra: at(schedule.extra),
    added: at(schedule.added),
    closing: at(schedule.closing),
    unpaid: at(schedule.unpaid),
    deferred: at(schedule.deferred),
    overpaid: at(schedule.overpaid),
    fee: at(schedule.fee),
  };
}

/** What a row is. */
export function kindOfRow(schedule: LoanColumns, row: Count): RowKind {
  return rowKinds[schedule.rowKind[row] as number] as RowKind;
}

const chargingKinds: readonly RowKind[] = [
  'overdue-payment',
  'early-payment',
  'interest-added',
  'settlement',
];

/** Whether a row charges interest, as rows of due dates do and extra payments or draws between them do not. */
export function chargesInterest(schedule: LoanColumns, row: Count): boolean {
  const kind = kindOfRow(schedule, row);
  return (schedule.n[row] as number) > 0 || chargingKinds.includes(kind);
}

/** Whether a row is the first that charges interest: it brings in what had accrued before a loan was taken on. */
export function isFirstCharge(schedule: LoanColumns, row: Count): boolean {
  if (!chargesInterest(schedule, row)) return false;
  for (let earlier = 0; earlier < row; earlier += 1) if (chargesInterest(schedule, earlier)) return false;
  return true;
}

/**
 * The row of the payment due on a day; −1 where none is.
 *
 * @example
 * rowOfDue(loan, day('2025-03-01')) // 1
 */
export function rowOfDue({ n, due, length }: LoanColumns, day: CalendarDay): Count {
  for (let row = 0; row < length; row += 1) if (due[row] === day && n[row] !== 0) return row;
  return -1;
}

/**
 * All rows as objects.
 *
 * @example
 * loanRows(loan).length // 12
 */
export function loanRows(schedule: LoanSchedule): LoanRow[] {
  return Array.from({ length: schedule.length }, (_, index) => loanRow(schedule, index));
}

/** An amount of a row in grains: as it was computed with. */
export function grainsAt(schedule: LoanColumns, column: AmountColumn, row: Count): bigint {
  return schedule.exact ? (schedule.exact[column][row] as bigint) : BigInt(schedule[column][row] as number);
}

/**
 * Whether a payment is asked as one amount, the same each time.
 *
 * @example
 * asksOneAmount(loan.settings[0]) // true
 */
export function asksOneAmount({ kind, amount }: PaymentSetting): boolean {
  return (kind === 'level' || kind === 'agreed' || kind === 'changed') && amount > 0n;
}

/**
 * The last row dated on or before a day; −1 before the first.
 *
 * @example
 * lastRowOn(loan.date, loan.length, day('2025-03-15')) // 1
 */
export function lastRowOn(date: Int32Array, length: Count, on: CalendarDay): Count {
  return firstAbove(date, length, on) - 1;
}
