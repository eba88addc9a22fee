import { showNumber } from '@coffer/contract';
import { Parser } from 'saxen';
import { NoTable } from './no-table';

/** The most cells of a sheet, with those that are empty between: the reader of workbooks makes a cell of each. */
const mostCells = 4_000_000;

const local = (name: string): string => name.slice(name.indexOf(':') + 1);

/**
 * How far out the cells of a part reach, as its pieces come, read by the parser that the reader of workbooks has: names
 * without their prefix, values decoded. What is no XML has no cells. Source: ISO/IEC 29500-1, 18.3.1.4 (c) and 18.3.1.73 (row).
 */
export class Extent {
  private readonly decoder = new TextDecoder();
  private rows = 0;
  private columns = 0;
  private broken = false;
  private readonly parser = new Parser()
    .on('error', () => (this.broken = true))
    .on('openTag', (name, attributes, decoded) => {
      const tag = local(name);
      if (tag !== 'c' && tag !== 'row') return;
      for (const [key, value] of Object.entries(attributes()))
        if (local(key) === 'r') this.reach(decoded(value));
    });

  /** Takes the next piece. Throws {@link NoTable} where a cell is too far out. */
  take(piece: Uint8Array): void {
    if (this.broken) return;
    this.parser.write(this.decoder.decode(piece, { stream: true }));
    if (this.rows * this.columns <= mostCells) return;
    throw new NoTable(
      `A sheet reaches to row ${showNumber(this.rows)} and has ${showNumber(this.columns)} ${this.columns === 1 ? 'column' : 'columns'}: more than 4 million cells. Delete what stands beside the table, or bring the table as CSV.`,
    );
  }

  private reach(reference: string): void {
    const digits = reference.search(/\d/);
    const letters = digits === -1 ? reference : reference.slice(0, digits);
    const row = Number(reference.slice(letters.length));
    if (row > this.rows) this.rows = row;
    let column = 0;
    for (let at = 0; at < letters.length; at += 1) column = 26 * column + letters.charCodeAt(at) - 64;
    this.columns = Math.max(1, this.columns, column);
  }
}
