import { calendarFields, formatDay, type CalendarDay } from '../calendar/calendar-day.ts';
import { bookedExpense, type BondSchedule, type BookedAmounts } from '../bond/schedule/bond-schedule.ts';
import type { LoanSchedule } from '../loan/schedule/loan-schedule.ts';
import { totalOf } from '../loan/schedule/totals.ts';
import type { ExplainStep, Explanation } from './explanation.ts';

/** Columns of a loan whose totals are shown. */
export type TotalledColumn = 'payment' | 'interest' | 'principal' | 'extra' | 'added' | 'fee';

/** Columns of a bond whose totals are shown. */
export type TotalledBondColumn = 'coupon' | 'expense' | 'amortization';

/** Rows of a schedule that can be added up, whichever kind it is. */
interface TotalledRows {
  day(row: number): CalendarDay;
  /** Its number; 0 for a row between the numbered ones. */
  number(row: number): number;
  total(from: number, end: number): number;
  /** What the column is called, and what a numbered row is. */
  readonly title: string;
  readonly one: string;
  readonly column: string;
}

const names: Readonly<Record<TotalledColumn, string>> = {
  payment: 'Payments',
  interest: 'Interest',
  principal: 'Principal',
  extra: 'Extra principal',
  added: 'Drawn, and interest added',
  fee: 'Fee on the unused part',
};

/**
 * How the total of a column over rows `from` to `end` (not included) is made: by calendar year, or row by row where
 * all of them fall in one year. Rows in which nothing moved are left out.
 *
 * @example
 * explainTotal(loan, 'interest').amount // 6_619
 */
export function explainTotal(
  schedule: LoanSchedule,
  column: TotalledColumn,
  from = 0,
  end = schedule.length,
): Explanation {
  const rows: TotalledRows = {
    day: (row) => schedule.date[row] as number,
    number: (row) => schedule.n[row] as number,
    total: (first, next) => totalOf(schedule, column, first, next),
    title: names[column],
    one: 'payment',
    column,
  };
  return { ...explained(rows, from, end), ...(schedule.exact && { rounding: sumsAreRounded }) };
}

const sumsAreRounded = 'unrounded amounts are summed, and the sum is rounded for showing';

const bondNames: Readonly<Record<TotalledBondColumn, string>> = {
  coupon: 'Coupons',
  expense: 'Interest expense',
  amortization: 'Amortization',
};

/**
 * The same for a bond's rows.
 *
 * @example
 * explainBondTotal(bond, 'coupon').amount // 4_000_000
 */
export function explainBondTotal(
  schedule: BondSchedule,
  column: TotalledBondColumn,
  from = 0,
  end = schedule.rows.length,
): Explanation {
  const rows: TotalledRows = {
    day: (row) => schedule.rows[row]?.due ?? 0,
    number: (row) => schedule.rows[row]?.n ?? 0,
    total: (first, next) => bondTotalOf(schedule, column, first, next),
    title: bondNames[column],
    one: 'coupon',
    column,
  };
  const unrounded = schedule.terms.rounding.interest === 'none';
  return { ...explained(rows, from, end), ...(unrounded && { rounding: sumsAreRounded }) };
}

/**
 * Sum of a bond's column over rows `from` to `end` (not included), minor units: of what the books carry, which never
 * drifts from the unrounded total as a sum of amounts rounded for showing would.
 *
 * @example
 * bondTotalOf(bond, 'coupon') // 4_000_000
 */
export function bondTotalOf(
  { rows }: Pick<BondSchedule, 'rows'>,
  column: TotalledBondColumn,
  from = 0,
  end = rows.length,
): number {
  return rows.slice(from, end).reduce((sum, { booked }) => sum + bookedFigure(booked, column), 0);
}

function bookedFigure(booked: BookedAmounts, column: TotalledBondColumn): number {
  if (column === 'coupon') return booked.coupon;
  return column === 'expense' ? bookedExpense(booked) : booked.discount + booked.costs;
}

function explained(rows: TotalledRows, from: number, end: number): Explanation {
  const yearOf = (row: number): number => calendarFields(rows.day(row)).year;
  const inOneYear = end <= from || yearOf(from) === yearOf(end - 1);
  const steps: ExplainStep[] = [];
  for (let row = from; row < end;) {
    let next = row + 1;
    while (!inOneYear && next < end && yearOf(next) === yearOf(row)) next += 1;
    const amount = rows.total(row, next);
    const link = { to: 'row', row, column: rows.column } as const;
    if (amount !== 0) steps.push({ label: label(rows, row, next, inOneYear), amount, link });
    row = next;
  }
  const span = end > from ? `, ${formatDay(rows.day(from))} to ${formatDay(rows.day(end - 1))}` : '';
  return { title: `${rows.title}${span}`, amount: rows.total(from, end), steps };
}

function label(rows: TotalledRows, row: number, next: number, single: boolean): string {
  const number = rows.number(row);
  const day = formatDay(rows.day(row));
  const one = `${rows.one.charAt(0).toUpperCase()}${rows.one.slice(1)}`;
  if (single) return number > 0 ? `${one} ${number}, ${day}` : day;
  let count = 0;
  for (let at = row; at < next; at += 1) if (rows.number(at) > 0) count += 1;
  return `${calendarFields(rows.day(row)).year}, ${count} ${rows.one}${count === 1 ? '' : 's'}`;
}
