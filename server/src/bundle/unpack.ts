import { crc32 } from 'node:zlib';
import type { Readable } from 'node:stream';
import { fromBuffer, type Entry, type ZipFile } from 'yauzl';
import { mostPaperBytes, mostUnpackedBytes } from '@coffer/contract';

/** Files that an archive may have: a paper and a document for each of a great many instruments. */
const mostFiles = 200_000;
/** The most that `company.json` may be, in bytes. */
const mostHeadBytes = 65_536;

/** What cannot be unpacked: which file, and why. */
export class NotUnpacked extends Error {
  constructor(
    readonly where: string,
    readonly why: string,
  ) {
    super(`${where}: ${why}`);
  }
}

/** The most that a file of a bundle may be; nothing for one that is there for people alone, and is not read. */
function mostOf(name: string): number | undefined {
  if (name === 'company.json') return mostHeadBytes;
  if (name.startsWith('papers/')) return mostPaperBytes;
  return name.startsWith('documents/') || name.endsWith('/') ? undefined : mostUnpackedBytes;
}

/**
 * Unpacks an archive file by file, counting as it goes: what it says of its sizes is believed of none of them. Length and
 * checksum of each are held against what it says. Throws {@link NotUnpacked}.
 */
export async function unpack(bytes: Buffer): Promise<Map<string, Uint8Array<ArrayBuffer>>> {
  const zip = await opened(bytes);
  const files = new Map<string, Uint8Array<ArrayBuffer>>();
  let left = mostUnpackedBytes;
  let many = 0;
  for (let entry = await next(zip); entry; entry = await next(zip)) {
    const name = entry.fileName;
    many += 1;
    if (many > mostFiles) throw new NotUnpacked('The file', `It has more than ${mostFiles} files in it.`);
    if (files.has(name)) throw new NotUnpacked(name, 'It is in the file twice.');
    const most = mostOf(name);
    if (most === undefined) {
      files.set(name, new Uint8Array());
      continue;
    }
    const content = await contentOf(zip, entry, Math.min(most, left));
    left -= content.length;
    files.set(name, content);
  }
  return files;
}

const broken = (): NotUnpacked => new NotUnpacked('The file', 'It is no ZIP that can be read.');

function opened(bytes: Buffer): Promise<ZipFile> {
  return new Promise((resolve, reject) => {
    fromBuffer(bytes, { lazyEntries: true, strictFileNames: true }, (error, zip) => {
      if (error) reject(broken());
      else resolve(zip);
    });
  });
}

/** The next file of an archive; `undefined` after the last. */
function next(zip: ZipFile): Promise<Entry | undefined> {
  return new Promise((resolve, reject) => {
    const settle = (act: () => void): void => {
      zip.removeAllListeners();
      act();
    };
    zip.once('entry', (entry: Entry) => settle(() => resolve(entry)));
    zip.once('end', () => settle(() => resolve(undefined)));
    zip.once('error', () => settle(() => reject(broken())));
    zip.readEntry();
  });
}

async function contentOf(zip: ZipFile, entry: Entry, most: number): Promise<Uint8Array<ArrayBuffer>> {
  const name = entry.fileName;
  const stream = await new Promise<Readable>((resolve, reject) => {
    zip.openReadStream(entry, (error, found) => {
      if (error) reject(new NotUnpacked(name, 'It cannot be unpacked.'));
      else resolve(found);
    });
  });
  const parts: Buffer[] = [];
  let length = 0;
  let sum = 0;
  try {
    for await (const part of stream as AsyncIterable<Buffer>) {
      length += part.length;
      if (length > most) {
        throw new NotUnpacked(name, `It unpacks to more than ${most.toLocaleString('en')} bytes.`);
      }
      sum = crc32(part, sum);
      parts.push(part);
    }
  } catch (error) {
    if (error instanceof NotUnpacked) throw error;
    throw new NotUnpacked(name, 'It is not as long as it says, or broken.');
  }
  if (length !== entry.uncompressedSize) throw new NotUnpacked(name, 'It is not as long as it says.');
  if (sum !== entry.crc32)
    throw new NotUnpacked(name, 'Its checksum does not fit: it was changed or broken.');
  const content = new Uint8Array(length);
  let at = 0;
  for (const part of parts) {
    content.set(part, at);
    at += part.length;
  }
  return content;
}
