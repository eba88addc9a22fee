import { describeInstrument, readInstrument } from '@coffer/contract';
import { firstDay } from '@coffer/core';
import { unzipSync } from 'fflate';
import { NoTable } from './no-table';
import { refuseBomb } from './refuse-bomb';

/** How many documents a ZIP may have. */
const mostDocuments = 20_000;

/** A document of a ZIP: what it is, or what is wrong with it. */
export interface PackedDocument {
  /** The name of its file. */
  readonly file: string;
  readonly document: unknown;
  readonly name: string;
  /** How it pays, such as `level, monthly`; empty where it cannot be worked out. */
  readonly what: string;
  readonly faults: readonly string[];
}

/** Whether bytes are a ZIP that is no workbook. */
export function isZipOfDocuments(bytes: Uint8Array): boolean {
  if (bytes[0] !== 0x50 || bytes[1] !== 0x4b) return false;
  let workbook = false;
  try {
    unzipSync(bytes, {
      filter: ({ name }) => {
        workbook ||= name === '[Content_Types].xml';
        return false;
      },
    });
  } catch {
    return false;
  }
  return !workbook;
}

/** The documents of a ZIP, each worked out. Throws {@link NoTable}. */
export function documentsOfZip(bytes: Uint8Array): PackedDocument[] {
  refuseBomb(bytes);
  const files = unzipSync(bytes, {
    filter: ({ name }) => /\.json$/i.test(name) && !/(^|\/)company\.json$/.test(name),
  });
  const packed = Object.entries(files);
  if (packed.length === 0) throw new NoTable('There is no document (.json) in this ZIP.');
  if (packed.length > mostDocuments) throw new NoTable('There are too many documents. Bring them in parts.');
  return packed.map(([file, content]) => readPacked(file.replace(/^.*\//, ''), content));
}

function readPacked(file: string, content: Uint8Array): PackedDocument {
  let document: unknown;
  try {
    document = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(content));
  } catch {
    return { file, document: undefined, name: file, what: '', faults: ['This is no JSON.'] };
  }
  const said = (document as { readonly name?: unknown } | null)?.name;
  const name = typeof said === 'string' ? said : file;
  try {
    const reading = readInstrument(document);
    if (!reading.ok) {
      const faults = reading.faults.map(({ key, message }) => (key === '' ? message : `${key}: ${message}`));
      return { file, document, name, what: '', faults };
    }
    const { document: read, schedule } = reading.instrument;
    const { pattern } = describeInstrument(read, schedule, firstDay(schedule));
    return { file, document, name, what: pattern, faults: [] };
  } catch (error) {
    return {
      file,
      document,
      name,
      what: '',
      faults: [error instanceof Error ? error.message : String(error)],
    };
  }
}
