import type { Response } from 'express';
import { formatAmount } from '@coffer/core';
import type { PortfolioView } from '@coffer/contract';
import { writeCsv } from '../http/csv.ts';
import { StreamedWorkbook, type SheetColumn } from '../http/workbook.ts';
import { heads, linesOf } from './portfolio-lines.ts';

/** The portfolio as CSV: a line an instrument and the total, amounts as plain decimals. */
export function portfolioCsv(view: PortfolioView, digits: number): string {
  const ends = view.periods.map(({ to }) => to);
  const lines = linesOf(view).map((line) => ({
    ...line.heads,
    ...Object.fromEntries(ends.map((end, at) => [end, formatAmount(line.values[at] ?? 0, digits)])),
  }));
  return writeCsv([...heads, ...ends], lines);
}

/** The portfolio as a workbook. */
export async function writePortfolioWorkbook(
  response: Response,
  view: PortfolioView,
  digits: number,
): Promise<void> {
  const book = new StreamedWorkbook(response, digits);
  const columns: SheetColumn[] = [
    ...heads.map((key): SheetColumn => [
      key.charAt(0).toUpperCase() + key.slice(1),
      key === 'name' ? 34 : 18,
    ]),
    ...view.periods.map(({ to }): SheetColumn => [to, 15, 'amount']),
  ];
  const rows = linesOf(view).map((line) => [
    ...heads.map((key) => line.heads[key] ?? ''),
    ...view.periods.map((_, at) => line.values[at] ?? 0),
  ]);
  await book.sheet('Portfolio', columns, rows, { kept: 1 });
  await book.end();
}
