import type { Response } from 'express';
import exceljs from 'exceljs';
import { formatAmount } from '@coffer/core';
import type { PortfolioView } from '@coffer/contract';
import { plainText, writeCsv } from '../http/csv.ts';
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

/** The portfolio as a workbook: amounts are numbers, and text stays text whatever it begins with. */
export async function writePortfolioWorkbook(
  response: Response,
  view: PortfolioView,
  digits: number,
): Promise<void> {
  const book = new exceljs.stream.xlsx.WorkbookWriter({ stream: response, useStyles: true });
  const sheet = book.addWorksheet('Portfolio', { views: [{ state: 'frozen', xSplit: 1, ySplit: 1 }] });
  const numFmt = `#,##0${digits > 0 ? `.${'0'.repeat(digits)}` : ''}`;
  const ends = view.periods.map(({ to }) => to);
  sheet.columns = [
    ...heads.map((key) => ({
      key,
      header: key.charAt(0).toUpperCase() + key.slice(1),
      width: key === 'name' ? 34 : 18,
    })),
    ...ends.map((key) => ({ key, header: key, width: 15, style: { numFmt } })),
  ];
  sheet.getRow(1).font = { bold: true };
  for (const line of linesOf(view)) {
    const named = Object.entries(line.heads).map(([key, text]) => [key, plainText(text)] as const);
    const amounts = ends.map((end, at) => [end, Number(formatAmount(line.values[at] ?? 0, digits))] as const);
    sheet.addRow(Object.fromEntries([...named, ...amounts])).commit();
  }
  sheet.commit();
  await book.commit();
}
