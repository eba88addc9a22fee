import { calendarFields, formatDay } from '../calendar/calendar-day.ts';
import type { BondSchedule } from '../bond/bond-schedule.ts';
import type { LoanSchedule } from '../loan/loan-schedule.ts';
import { totalOf } from '../loan/totals.ts';
import type { ExplainStep, Explanation } from './explanation.ts';

/** Columns whose totals are shown. */
export type TotalledColumn = 'payment' | 'interest' | 'principal' | 'extra';

const names: Readonly<Record<TotalledColumn, string>> = {
  payment: 'Payments',
  interest: 'Interest',
  principal: 'Principal',
  extra: 'Extra principal',
};

/**
 * How the total of a column over rows `from` to `end` (not included) is made: by calendar year, or row by row where
 * all of them fall in one year. Rows in which nothing moved are left out.
 */
export function explainTotal(
  schedule: LoanSchedule,
  column: TotalledColumn,
  from = 0,
  end = schedule.length,
): Explanation {
  const yearOf = (row: number): number => calendarFields(schedule.date[row] as number).year;
  const inOneYear = end <= from || yearOf(from) === yearOf(end - 1);
  const steps: ExplainStep[] = [];
  for (let row = from; row < end;) {
    let next = row + 1;
    while (!inOneYear && next < end && yearOf(next) === yearOf(row)) next += 1;
    const amount = totalOf(schedule, column, row, next);
    if (amount !== 0)
      steps.push({ label: label(schedule, row, next, inOneYear), amount, link: { to: 'row', row, column } });
    row = next;
  }
  const span =
    end > from
      ? `, ${formatDay(schedule.date[from] as number)} to ${formatDay(schedule.date[end - 1] as number)}`
      : '';
  return {
    title: `${names[column]}${span}`,
    amount: totalOf(schedule, column, from, end),
    steps,
    ...(schedule.exact && { rounding: 'unrounded amounts are summed, and the sum is rounded for showing' }),
  };
}

function label({ n, date }: LoanSchedule, row: number, next: number, single: boolean): string {
  const number = n[row] as number;
  if (single)
    return number > 0
      ? `Payment ${number}, ${formatDay(date[row] as number)}`
      : formatDay(date[row] as number);
  let payments = 0;
  for (let at = row; at < next; at += 1) if ((n[at] as number) > 0) payments += 1;
  return `${calendarFields(date[row] as number).year}, ${payments} ${payments === 1 ? 'payment' : 'payments'}`;
}

/** Columns of a bond whose totals are shown. */
export type TotalledBondColumn = 'coupon' | 'expense' | 'amortization';

const bondNames: Readonly<Record<TotalledBondColumn, string>> = {
  coupon: 'Coupons',
  expense: 'Interest expense',
  amortization: 'Amortization',
};

/** How the total of a bond's column over its whole life is made: by calendar year. */
export function explainBondTotal({ rows }: BondSchedule, column: TotalledBondColumn): Explanation {
  const years = new Map<number, { amount: number; row: number }>();
  rows.forEach((row, index) => {
    const { year } = calendarFields(row.due);
    const known = years.get(year) ?? { amount: 0, row: index };
    years.set(year, { ...known, amount: known.amount + row[column] });
  });
  return {
    title: `${bondNames[column]}, from issue to the end`,
    amount: rows.reduce((sum, row) => sum + row[column], 0),
    steps: [...years].map(([year, { amount, row }]) => ({
      label: String(year),
      amount,
      link: { to: 'row', row, column },
    })),
  };
}
