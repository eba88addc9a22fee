import { showNumber } from '@coffer/contract';
import { Unzip, UnzipInflate, unzipSync } from 'fflate';
import { NoTable } from './no-table';

/** What a file may come to once it is unpacked, in bytes. */
const mostUnpacked = 200_000_000;
/** The most cells of a sheet, with those that are empty between: a reader makes a cell of each. */
const mostCells = 4_000_000;
/** Characters that a reference of a cell is within, where it stands over two pieces of a part. */
const overlap = 200;

/**
 * Unpacks a ZIP piece by piece and keeps nothing: what comes to too much, to more or less than it says of itself, or is a
 * sheet with a cell so far out that what is between takes all memory, is refused before anything reads it. Source: APPNOTE
 * of the ZIP format, 4.3; ISO/IEC 29500-1, 18.3.1.4 (a cell and its reference). Throws {@link NoTable}.
 */
export function refuseBomb(bytes: Uint8Array): void {
  const told = new Map<string, number>();
  let announced = 0;
  try {
    unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        told.set(name, originalSize);
        announced += originalSize;
        return false;
      },
    });
  } catch {
    throw new NoTable('The file is broken: it begins as a workbook and is none.');
  }
  if (announced > mostUnpacked) throw tooMuch();
  const counted = unpacked(bytes);
  for (const [name, size] of told)
    if (counted.get(name) !== size)
      throw new NoTable(
        `The file is broken: ${name} in it is not as long as it says. Save it anew, or bring CSV.`,
      );
}

/** How long each part of a ZIP is in truth, by name; sheets are looked through meanwhile. */
function unpacked(bytes: Uint8Array): ReadonlyMap<string, number> {
  const counted = new Map<string, number>();
  let all = 0;
  const unzip = new Unzip((file) => {
    counted.set(file.name, 0);
    const extent = /^xl\/worksheets\/[^/]+\.xml$/.test(file.name) ? new Extent() : undefined;
    file.ondata = (error, piece): void => {
      if (error) throw error;
      all += piece.length;
      if (all > mostUnpacked) throw tooMuch();
      counted.set(file.name, (counted.get(file.name) ?? 0) + piece.length);
      extent?.take(piece);
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  try {
    unzip.push(bytes, true);
  } catch (error) {
    if (error instanceof NoTable) throw error;
    throw new NoTable('The file is broken: what is packed in it cannot be unpacked.');
  }
  return counted;
}

const tooMuch = (): NoTable =>
  new NoTable('What is packed in the file is more than 200 MB. Bring only the rows that are meant.');

/** How far out the cells of a sheet reach, as its pieces come. */
class Extent {
  private readonly decoder = new TextDecoder();
  private before = '';
  private rows = 0;
  private columns = 0;

  /** Takes the next piece. Throws {@link NoTable} where a cell is too far out. */
  take(piece: Uint8Array): void {
    const text = this.before + this.decoder.decode(piece, { stream: true });
    for (const [, letters = '', digits = ''] of text.matchAll(/\sr="([A-Z]{0,9})(\d{1,12})"/g)) {
      this.rows = Math.max(this.rows, Number(digits));
      this.columns = Math.max(this.columns, columnOf(letters));
      if (this.rows * this.columns > mostCells) throw this.tooFar(`${letters}${digits}`);
    }
    this.before = text.slice(-overlap);
  }

  private tooFar(cell: string): NoTable {
    return new NoTable(
      `A sheet reaches to ${cell}: ${showNumber(this.rows)} rows of ${showNumber(this.columns)} columns. Delete what stands beside the table, or bring the table as CSV.`,
    );
  }
}

/** The column of letters, counted from 1; 1 where there are none, as at a row. */
function columnOf(letters: string): number {
  return Math.max(
    1,
    [...letters].reduce((sum, letter) => 26 * sum + letter.charCodeAt(0) - 64, 0),
  );
}
