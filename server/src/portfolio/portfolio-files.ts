import type { Writable } from 'node:stream';
import { formatAmount } from '@coffer/core';
import type { PortfolioView } from '@coffer/contract';
import { writeCsv } from '../http/csv.ts';
import { StreamedWorkbook, type SheetColumn } from '../http/workbook.ts';
import { headsFor, linesOf } from './portfolio-lines.ts';

/** The portfolio as CSV: a line an instrument and the total, amounts as plain decimals. */
export function portfolioCsv(view: PortfolioView, digits: number, scenario?: string): string {
  const ends = view.periods.map(({ to }) => to);
  const lines = linesOf(view, scenario).map((line) => ({
    ...line.heads,
    ...Object.fromEntries(ends.map((end, at) => [end, formatAmount(line.values[at] ?? 0, digits)])),
  }));
  return writeCsv([...headsFor(scenario), ...ends], lines);
}

/** The portfolio as a workbook. */
export async function writePortfolioWorkbook(
  stream: Writable,
  view: PortfolioView,
  digits: number,
  scenario?: string,
): Promise<void> {
  const heads = headsFor(scenario);
  const book = new StreamedWorkbook(stream, digits);
  const columns: SheetColumn[] = [
    ...heads.map((key): SheetColumn => [
      key.charAt(0).toUpperCase() + key.slice(1),
      key === 'name' ? 34 : 18,
    ]),
    ...view.periods.map(({ to }): SheetColumn => [to, 15, 'amount']),
  ];
  const rows = linesOf(view, scenario).map((line) => [
    ...heads.map((key) => line.heads[key] ?? ''),
    ...view.periods.map((_, at) => line.values[at] ?? 0),
  ]);
  await book.sheet('Portfolio', columns, rows, { kept: 1 });
  await book.end();
}
