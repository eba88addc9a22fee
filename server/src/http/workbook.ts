import type { Writable } from 'node:stream';
import exceljs from 'exceljs';
import { formatAmount } from '@coffer/core';
import { plainText } from '@coffer/contract';

/** What stands in a cell, as its column says: see {@link CellType}. */
export type Cell = string | number | null;

/** Amounts in minor units, or as decimals in text; days as `YYYY-MM-DD`; counts. Anything else is text. */
export type CellType = 'amount' | 'decimal' | 'day' | 'count';

/** A column of a sheet: what it is called, how wide it is, and what it has. */
export type SheetColumn = readonly [title: string, width: number, type?: CellType | undefined];

/** What a sheet has besides its rows. */
export interface SheetMore {
  /** Columns that stay in view. */
  readonly kept?: number;
  /** What stands below: of decimals the sum of the rows, which can be followed in the file. */
  readonly totals?: readonly Cell[];
}

/**
 * A workbook that is written row by row, so that a large one is never held whole. Amounts are numbers, and text stays text
 * whatever it begins with.
 */
export class StreamedWorkbook {
  private readonly book: exceljs.stream.xlsx.WorkbookWriter;
  private readonly formats: Readonly<Record<CellType, string>>;

  /** @param digits of the currency that amounts are in */
  constructor(
    stream: Writable,
    private readonly digits: number,
  ) {
    this.book = new exceljs.stream.xlsx.WorkbookWriter({ stream, useStyles: true });
    const amount = `#,##0${digits > 0 ? `.${'0'.repeat(digits)}` : ''}`;
    this.formats = { amount, decimal: amount, day: 'yyyy-mm-dd', count: '0' };
  }

  /** Writes a sheet under its titles, which stay in view. */
  async sheet(
    name: string,
    columns: readonly SheetColumn[],
    rows: Iterable<readonly Cell[]> | AsyncIterable<readonly Cell[]>,
    { kept = 0, totals }: SheetMore = {},
  ): Promise<void> {
    const sheet = this.book.addWorksheet(name, { views: [{ state: 'frozen', xSplit: kept, ySplit: 1 }] });
    sheet.columns = columns.map(([header, width, type], at) => ({
      key: String(at),
      header,
      width,
      style: type ? { numFmt: this.formats[type] } : {},
    }));
    sheet.getRow(1).font = { bold: true };
    let last = 1;
    for await (const row of rows) {
      sheet.addRow(this.valuesOf(row, columns)).commit();
      last += 1;
    }
    if (totals) this.total(sheet, columns, totals, last);
    sheet.commit();
  }

  /** Writes a sheet of names with what they are. */
  about(name: string, facts: readonly (readonly [string, string])[]): void {
    const sheet = this.book.addWorksheet(name);
    sheet.columns = [{ width: 26, style: { font: { bold: true } } }, { width: 90 }];
    for (const fact of facts) sheet.addRow(this.valuesOf(fact, [])).commit();
    sheet.commit();
  }

  async end(): Promise<void> {
    await this.book.commit();
  }

  private valuesOf(row: readonly Cell[], columns: readonly SheetColumn[]): exceljs.CellValue[] {
    return row.map((cell, at) => this.valueOf(cell, columns[at]?.[2]));
  }

  private valueOf(cell: Cell, type: CellType | undefined): exceljs.CellValue {
    if (cell === null || cell === '') return null;
    if (type === 'amount') return Number(formatAmount(Number(cell), this.digits));
    if (type === 'decimal' || type === 'count') return Number(cell);
    if (type === 'day') return new Date(`${cell}T00:00:00Z`);
    return typeof cell === 'string' ? plainText(cell) : cell;
  }

  private total(
    sheet: exceljs.Worksheet,
    columns: readonly SheetColumn[],
    totals: readonly Cell[],
    last: number,
  ): void {
    const row = sheet.addRow([]);
    for (const [at, total] of totals.entries()) {
      const cell = row.getCell(at + 1);
      const { letter } = sheet.getColumn(at + 1);
      if (total === null) continue;
      // The sum stands there as well, for readers that do not work it out.
      cell.value =
        columns[at]?.[2] === 'decimal'
          ? { formula: `SUM(${letter}2:${letter}${last})`, result: Number(total) }
          : String(total);
      cell.font = { bold: true };
      cell.border = { top: { style: 'thin' }, bottom: { style: 'double' } };
    }
    row.commit();
  }
}
