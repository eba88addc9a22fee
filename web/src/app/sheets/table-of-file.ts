import { showNumber } from '@coffer/contract';
import { parse } from 'papaparse';
import readSheets from 'read-excel-file/web-worker';
import { filledDown } from './merged-cells';
import { NoTable } from './no-table';
import { refuseBomb } from './refuse-bomb';

/** The most that a file may be, in bytes. */
export const mostBytes = 25_000_000;
/** The most rows and columns of a table. */
export const mostRows = 20_000;
const mostColumns = 200;

/** A table of a file, cell by cell as text; dates as `YYYY-MM-DD`, numbers with a point. */
export interface FileTable {
  /** Of the sheet; empty where the file has none. */
  readonly name: string;
  readonly rows: readonly (readonly string[])[];
}

/** Tables of a workbook or of separated text, told apart by what is in them. Throws {@link NoTable}. */
export async function tablesOfFile(bytes: Uint8Array<ArrayBuffer>): Promise<FileTable[]> {
  if (bytes.length > mostBytes) throw new NoTable('The file is larger than 25 MB.');
  if (bytes[0] === 0x50 && bytes[1] === 0x4b) return tablesOfWorkbook(bytes);
  if (bytes[0] === 0xd0 && bytes[1] === 0xcf) {
    throw new NoTable('This is a workbook of the old kind (.xls). Save it as .xlsx or as CSV.');
  }
  return [{ name: '', rows: rowsOfText(textOf(bytes)) }];
}

/** UTF-8, or where it is none the western single-byte encoding. Throws {@link NoTable} where it is no text. */
function textOf(bytes: Uint8Array): string {
  if (bytes.includes(0)) throw new NoTable('This is no table: bring a .xlsx workbook or a CSV file.');
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

/** Rows of separated text; the separator is found out, quotes are read as RFC 4180 has them. Throws {@link NoTable}. */
export function rowsOfText(text: string): string[][] {
  const { data } = parse<string[]>(text, { preview: mostRows + 1, delimiter: separatorOf(text) });
  return bearable(data);
}

/** The separator by which most of the first rows have one width: a title, or decimal commas, tell otherwise of few. */
function separatorOf(text: string): string {
  const scored = [';', '\t', ',', '|'].map((separator) => {
    const { data } = parse<string[]>(text, { preview: 100, delimiter: separator, skipEmptyLines: 'greedy' });
    const widths = new Map<number, number>();
    for (const { length } of data) if (length > 1) widths.set(length, (widths.get(length) ?? 0) + 1);
    const [width = 0, rows = 0] = [...widths].sort((one, other) => other[1] - one[1])[0] ?? [];
    return { separator, width, rows };
  });
  scored.sort((one, other) => other.rows - one.rows || other.width - one.width);
  return scored[0]?.separator ?? ',';
}

async function tablesOfWorkbook(bytes: Uint8Array<ArrayBuffer>): Promise<FileTable[]> {
  refuseBomb(bytes);
  let sheets: Awaited<ReturnType<typeof readSheets>>;
  try {
    sheets = await readSheets(bytes.buffer);
  } catch {
    throw new NoTable('This workbook cannot be read. Save it anew as .xlsx, or as CSV.');
  }
  const rows = sheets.map(({ data }) => bearable(data).map((row) => row.map((cell) => cellText(cell))));
  const filled = filledDown(bytes, rows);
  return sheets.map(({ sheet }, at) => ({ name: sheet, rows: filled[at] ?? [] }));
}

function bearable<Cell>(rows: readonly (readonly Cell[])[]): Cell[][] {
  if (rows.length > mostRows) {
    throw new NoTable(`The table has more than ${showNumber(mostRows)} rows. Bring it in parts.`);
  }
  return rows.map((row) => row.slice(0, mostColumns));
}

function cellText(cell: unknown): string {
  if (cell instanceof Date) return cell.toISOString().slice(0, 10);
  return typeof cell === 'string' || typeof cell === 'number' || typeof cell === 'boolean'
    ? String(cell)
    : '';
}
