import type { Writable } from 'node:stream';
import exceljs from 'exceljs';
import { formatAmount } from '@coffer/core';
import { plainText } from './csv.ts';

/** What stands in a cell; an amount in minor units where its column has amounts. */
export type Cell = string | number | null;

/** A column of a sheet: what it is called, how wide it is, and whether it has amounts. */
export type SheetColumn = readonly [title: string, width: number, amount?: 'amount'];

/**
 * A workbook that is written row by row, so that a large one is never held whole. Amounts are numbers, and text stays text
 * whatever it begins with.
 */
export class StreamedWorkbook {
  private readonly book: exceljs.stream.xlsx.WorkbookWriter;
  private readonly numFmt: string;

  /** @param digits of the currency that amounts are in */
  constructor(
    stream: Writable,
    private readonly digits: number,
  ) {
    this.book = new exceljs.stream.xlsx.WorkbookWriter({ stream, useStyles: true });
    this.numFmt = `#,##0${digits > 0 ? `.${'0'.repeat(digits)}` : ''}`;
  }

  /**
   * Writes a sheet under its titles, which stay in view.
   *
   * @param kept columns that stay in view as well
   */
  async sheet(
    name: string,
    columns: readonly SheetColumn[],
    rows: Iterable<readonly Cell[]> | AsyncIterable<readonly Cell[]>,
    kept = 0,
  ): Promise<void> {
    const sheet = this.book.addWorksheet(name, { views: [{ state: 'frozen', xSplit: kept, ySplit: 1 }] });
    sheet.columns = columns.map(([header, width, amount], at) => ({
      key: String(at),
      header,
      width,
      style: amount ? { numFmt: this.numFmt } : {},
    }));
    sheet.getRow(1).font = { bold: true };
    for await (const row of rows) this.add(sheet, row, columns);
    sheet.commit();
  }

  /** Writes a sheet of names with what they are. */
  about(name: string, facts: readonly (readonly [string, string])[]): void {
    const sheet = this.book.addWorksheet(name);
    sheet.columns = [{ width: 26 }, { width: 90 }];
    for (const fact of facts) this.add(sheet, fact, []);
    sheet.commit();
  }

  async end(): Promise<void> {
    await this.book.commit();
  }

  private add(sheet: exceljs.Worksheet, row: readonly Cell[], columns: readonly SheetColumn[]): void {
    const cells = row.map((cell, at) => {
      if (typeof cell === 'string') return plainText(cell);
      return columns[at]?.[2] && cell !== null ? Number(formatAmount(cell, this.digits)) : cell;
    });
    sheet.addRow(cells).commit();
  }
}
