import { Unzip, UnzipInflate, unzipSync } from 'fflate';
import { Extent } from './extent';
import { NoTable } from './no-table';

/** What a file may come to once it is unpacked, in bytes. */
const mostUnpacked = 200_000_000;

/**
 * Unpacks a ZIP piece by piece and keeps nothing: what comes to too much, to more or less than it says of itself, or is a
 * sheet with a cell so far out that what is between takes all memory, is refused before anything reads it. Source: APPNOTE
 * of the ZIP format, 4.3. Throws {@link NoTable}.
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

/** How long each part of a ZIP is in truth, by name; a sheet, which may be any of them, is looked through meanwhile. */
function unpacked(bytes: Uint8Array): ReadonlyMap<string, number> {
  const counted = new Map<string, number>();
  let all = 0;
  const unzip = new Unzip((file) => {
    counted.set(file.name, 0);
    const extent = new Extent();
    file.ondata = (error, piece): void => {
      if (error) throw error;
      all += piece.length;
      if (all > mostUnpacked) throw tooMuch();
      counted.set(file.name, (counted.get(file.name) ?? 0) + piece.length);
      extent.take(piece);
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
