import type { Content, TableCell } from 'pdfmake/interfaces';
import {
  calendarFields,
  formatAmount,
  parseAmount,
  parseDay,
  position,
  type CalendarDay,
  type Schedule,
} from '@coffer/core';
import {
  scheduleTable,
  showAmount,
  showDay,
  showDecimal,
  type TableColumn,
  type PublishedRow,
} from '@coffer/contract';
import { inks, table } from './paper-parts.ts';

/** The schedule of a paper: its table, how many columns it has, and what its marks mean. */
export interface PaperSchedule {
  readonly content: Content;
  readonly columns: number;
  readonly legend: string;
}

const balances: readonly string[] = ['opening', 'closing', 'unamortized', 'unpaidInterest'];

/**
 * Lists a schedule with the period end among its rows and a sum for each fiscal year. The totals carry a mark when
 * adding the printed figures up gives the same.
 */
export function paperSchedule(
  schedule: Schedule,
  on: CalendarDay,
  fiscalYearEndMonth: number,
): PaperSchedule {
  const { columns, rows, totals } = scheduleTable(schedule);
  const { digits } = schedule.terms;
  const summed = columns.filter(({ key, type }) => type === 'amount' && !balances.includes(key));
  const body: TableCell[][] = [];
  let ofYear: PublishedRow[] = [];
  let ended = false;
  rows.forEach((row, at) => {
    const due = parseDay(String(row['due'])) as CalendarDay;
    if (!ended && due > on) body.push(periodEnd(schedule, on, columns.length));
    ended ||= due > on;
    ofYear.push(row);
    body.push(columns.map((column) => cell(column, row)));
    const year = fiscalYear(due, fiscalYearEndMonth);
    const next = rows[at + 1];
    const nextDue = next && (parseDay(String(next['due'])) as CalendarDay);
    if (nextDue !== undefined && fiscalYear(nextDue, fiscalYearEndMonth) === year) return;
    if (ofYear.length > 1) body.push(sums(columns, summed, `Fiscal ${year}`, ofYear, digits));
    ofYear = [];
  });
  const footed = summed.every(
    ({ key }) => totals[key] === undefined || footing(rows, key, digits) === totals[key],
  );
  body.push(totalRow(columns, totals, footed));
  return {
    content: table(
      columns.map(({ title }) => title),
      body,
      columns.map(({ type }) => (type === 'amount' ? '*' : 'auto')),
      columns.flatMap(({ type }, at) => (type === 'amount' || type === 'count' ? [at] : [])),
    ),
    columns: columns.length,
    legend: footed
      ? 'f: footed; the printed figures of each column add up to its total.'
      : 'Amounts are carried unrounded; the printed figures need not add up to the totals to the last decimal.',
  };
}

function fiscalYear(day: CalendarDay, endMonth: number): number {
  const { year, month } = calendarFields(day);
  return month > endMonth ? year + 1 : year;
}

function footing(rows: readonly PublishedRow[], key: string, digits: number): string {
  return formatAmount(
    rows.reduce((sum, row) => sum + (parseAmount(String(row[key] ?? 0), digits) ?? 0), 0),
    digits,
  );
}

function cell({ key, type }: TableColumn, row: PublishedRow): TableCell {
  const value = row[key];
  if (value === undefined || value === null || value === '') return '';
  if (type === 'day') return { text: showDay(String(value)), noWrap: true };
  if (type !== 'amount') return String(value);
  return Number(value) === 0 && !balances.includes(key) ? '–' : showDecimal(String(value));
}

function periodEnd(schedule: Schedule, on: CalendarDay, columns: number): TableCell[] {
  const { accruedInterest } = position(schedule, on);
  const text = `${showDay(on)}, period end: ${showAmount(accruedInterest, schedule.terms.digits)} interest accrued`;
  return [
    { text, colSpan: columns, bold: true, color: inks.flag, fillColor: inks.soft },
    ...Array.from({ length: columns - 1 }, () => ''),
  ];
}

function sums(
  columns: readonly TableColumn[],
  summed: readonly TableColumn[],
  name: string,
  rows: readonly PublishedRow[],
  digits: number,
): TableCell[] {
  return columns.map(({ key, type }): TableCell => {
    const text =
      key === 'due'
        ? name
        : summed.some((column) => column.key === key)
          ? showDecimal(footing(rows, key, digits))
          : '';
    return {
      text,
      bold: true,
      noWrap: true,
      fillColor: inks.soft,
      alignment: type === 'amount' ? 'right' : 'left',
    };
  });
}

function totalRow(
  columns: readonly TableColumn[],
  totals: Readonly<Record<string, string>>,
  footed: boolean,
): TableCell[] {
  return columns.map(({ key, type }): TableCell => {
    const total = totals[key];
    const text = key === 'due' ? 'Total' : total === undefined ? '' : showDecimal(total);
    const mark = footed && total !== undefined ? 'f ' : '';
    return { text: mark + text, bold: true, alignment: type === 'amount' ? 'right' : 'left' };
  });
}
