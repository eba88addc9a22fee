import type { Content, TableCell } from 'pdfmake/interfaces';
import {
  calendarFields,
  formatAmount,
  parseAmount,
  parseDay,
  type CalendarDay,
  type Count,
  type Position,
} from '@coffer/core';
import {
  showAmount,
  showDay,
  showDecimal,
  type TableColumn,
  type PublishedRow,
  type ScheduleTable,
} from '@coffer/contract';
import { inks, table } from './paper-parts.ts';

/** The schedule of a paper: its table, how many columns it has, and what its marks mean. */
export interface PaperSchedule {
  readonly content: Content;
  readonly columns: number;
  readonly legend: string;
}

const balances: readonly string[] = ['opening', 'closing', 'unamortized', 'unpaidInterest'];

/** The most rows that a paper lists; of the others it has the sums of their fiscal years. */
export const mostRowsListed = 400;

/** The rows of one fiscal year. */
interface FiscalYear {
  readonly year: number;
  readonly rows: PublishedRow[];
}

/**
 * Lists a schedule with the period end among its rows and a sum for each fiscal year. Where it has more rows than a paper
 * holds, those of the fiscal years nearest to the day are listed, and the sums of the others. The totals carry a mark when
 * adding the printed figures up gives the same.
 */
export function paperSchedule(
  { columns, rows, totals }: ScheduleTable,
  { on, accruedInterest }: Pick<Position, 'on' | 'accruedInterest'>,
  fiscalYearEndMonth: number,
  digits: Count,
): PaperSchedule {
  const summed = columns.filter(({ key, type }) => type === 'amount' && !balances.includes(key));
  const years = fiscalYears(rows, fiscalYearEndMonth);
  const listed = yearsListed(years, fiscalYear(on, fiscalYearEndMonth));
  const body: TableCell[][] = [];
  let ended = false;
  const endBefore = (day: CalendarDay): void => {
    if (!ended && day > on) {
      body.push(
        periodEnd(
          `${showDay(on)}, period end: ${showAmount(accruedInterest, digits)} interest accrued`,
          columns.length,
        ),
      );
      ended = true;
    }
  };
  for (const { year, rows: ofYear } of years) {
    if (listed.has(year)) {
      for (const row of ofYear) {
        endBefore(dueOf(row));
        body.push(columns.map((column) => cell(column, row)));
      }
    } else {
      // Within a year of sums alone the period end stands before it.
      endBefore(dueOf(ofYear.at(-1) as PublishedRow));
    }
    if (ofYear.length > 1 || !listed.has(year))
      body.push(sums(columns, summed, `Fiscal ${year}`, ofYear, digits));
  }
  const footed = summed.every(
    ({ key }) => totals[key] === undefined || footing(rows, key, digits) === totals[key],
  );
  body.push(totalRow(columns, totals, footed));
  const marks = footed
    ? 'f: footed; the printed figures of each column add up to its total.'
    : 'Amounts are carried unrounded; the printed figures need not add up to the totals to the last decimal.';
  const left =
    rows.length - years.reduce((sum, each) => sum + (listed.has(each.year) ? each.rows.length : 0), 0);
  return {
    content: table(
      columns.map(({ title }) => title),
      body,
      columns.map(({ type }) => (type === 'amount' ? '*' : 'auto')),
      columns.flatMap(({ type }, at) => (type === 'amount' || type === 'count' ? [at] : [])),
    ),
    columns: columns.length,
    legend:
      left === 0
        ? marks
        : `${marks} Of ${left} of ${rows.length} rows the sums of their fiscal years stand here; the workbook of the schedule has each of them.`,
  };
}

const dueOf = (row: PublishedRow): CalendarDay => parseDay(String(row['due'])) as CalendarDay;

function fiscalYears(rows: readonly PublishedRow[], endMonth: number): FiscalYear[] {
  const years: FiscalYear[] = [];
  for (const row of rows) {
    const year = fiscalYear(dueOf(row), endMonth);
    const last = years.at(-1);
    if (last?.year === year) last.rows.push(row);
    else years.push({ year, rows: [row] });
  }
  return years;
}

/** The fiscal years whose rows are listed: those nearest to one, the later of two as near first, as many as fit. */
function yearsListed(years: readonly FiscalYear[], nearest: number): ReadonlySet<number> {
  const nearestFirst = [...years].sort(
    (a, b) => Math.abs(a.year - nearest) - Math.abs(b.year - nearest) || b.year - a.year,
  );
  const listed = new Set<number>();
  let many = 0;
  for (const { year, rows } of nearestFirst) {
    many += rows.length;
    if (many > mostRowsListed) break;
    listed.add(year);
  }
  return listed;
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

function periodEnd(text: string, columns: number): TableCell[] {
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
