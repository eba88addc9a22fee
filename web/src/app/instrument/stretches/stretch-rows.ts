import {
  bondTotalOf,
  explainBondTotal,
  explainTotal,
  paymentsMade,
  totalOf,
  type BondSchedule,
  type CalendarDay,
  type Explanation,
  type LoanSchedule,
  type TotalledBondColumn,
  type TotalledColumn,
} from '@coffer/core';

/** A column that is added up, and what its total is called; one that is often empty is told where it is not. */
export interface StretchColumn {
  readonly key: string;
  readonly name: string;
  readonly seldom?: boolean;
}

/** The rows of a schedule of any kind, as far as adding up stretches of them needs. Amounts in minor units. */
export interface StretchRows {
  readonly length: number;
  /** The day the instrument begins. */
  readonly begins: CalendarDay;
  readonly digits: number;
  /** What the numbered rows are, and what the balance is that a stretch ends with. */
  readonly numbered: 'payments' | 'bills' | 'coupons';
  readonly closes: 'closing' | 'carrying';
  readonly columns: readonly StretchColumn[];
  day(row: number): CalendarDay;
  /** Its number; 0 for a row between the numbered ones. */
  number(row: number): number;
  /** Payments made, bills sent, or coupons paid, from one row to another. */
  count(from: number, end: number): number;
  total(key: string, from: number, end: number): number;
  /** The balance after the row before `end`. */
  closing(end: number): number;
  explain(key: string, from: number, end: number): Explanation;
}

const loanColumns: readonly StretchColumn[] = [
  { key: 'payment', name: 'payment' },
  { key: 'interest', name: 'interest' },
  { key: 'principal', name: 'principal' },
  { key: 'extra', name: 'extra', seldom: true },
];

/** What is repaid of a line between its bills is no extra principal. */
const lineColumns: readonly StretchColumn[] = [
  { key: 'interest', name: 'interest' },
  { key: 'fee', name: 'fee', seldom: true },
  { key: 'added', name: 'drawn' },
  { key: 'extra', name: 'repaid' },
  { key: 'principal', name: 'at maturity', seldom: true },
];

/** The rows of a loan. */
export function loanStretchRows(schedule: LoanSchedule): StretchRows {
  return {
    ...rowsOf(schedule),
    numbered: 'payments',
    columns: loanColumns,
    count: (from, end) => paymentsMade(schedule, from, end),
  };
}

/** The rows of a credit line, which counts its bills. */
export function lineStretchRows(schedule: LoanSchedule): StretchRows {
  return {
    ...rowsOf(schedule),
    numbered: 'bills',
    columns: lineColumns,
    count: (from, end) => schedule.n.subarray(from, end).filter((number) => number > 0).length,
  };
}

function rowsOf(schedule: LoanSchedule): Omit<StretchRows, 'numbered' | 'columns' | 'count'> {
  const { terms, length, date, n, closing } = schedule;
  return {
    length,
    begins: terms.start,
    digits: terms.digits,
    closes: 'closing',
    day: (row) => date[row] as number,
    number: (row) => n[row] as number,
    total: (key, from, end) => totalOf(schedule, key as TotalledColumn, from, end),
    closing: (end) => (end > 0 ? (closing[end - 1] ?? 0) : terms.amount),
    explain: (key, from, end) => explainTotal(schedule, key as TotalledColumn, from, end),
  };
}

/** The rows of a bond. */
export function bondStretchRows(schedule: BondSchedule): StretchRows {
  const { terms, rows } = schedule;
  return {
    length: rows.length,
    begins: terms.issued,
    digits: terms.digits,
    numbered: 'coupons',
    closes: 'carrying',
    columns: [
      { key: 'coupon', name: 'cash coupon', seldom: true },
      { key: 'expense', name: 'expense' },
      { key: 'amortization', name: 'amortization' },
    ],
    day: (row) => rows[row]?.due ?? 0,
    number: (row) => rows[row]?.n ?? 0,
    count: (from, end) => rows.slice(from, end).filter((row) => (row.n ?? 0) > 0).length,
    total: (key, from, end) => bondTotalOf(schedule, key as TotalledBondColumn, from, end),
    closing: (end) => rows[end - 1]?.closing ?? 0,
    explain: (key, from, end) => explainBondTotal(schedule, key as TotalledBondColumn, from, end),
  };
}
