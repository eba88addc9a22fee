import { setImmediate } from 'node:timers/promises';
import { unzip } from 'fflate';
import * as v from 'valibot';
import {
  bundleFiles,
  bundleHead,
  faultsOf,
  laterBundleFiles,
  mostUnpackedBytes,
  type BundleFile,
  type BundleHead,
  type BundleRow,
  type BundleRows,
} from '@coffer/contract';
import { Refusal } from '../http/refusal.ts';

/** A company as a bundle has it. */
export interface ReadBundle {
  readonly head: BundleHead;
  readonly rows: BundleRows;
  /** The bytes of papers by their place in their list, from 1. */
  readonly papers: ReadonlyMap<number, Uint8Array>;
}

/** Rows that are read before others have a turn. */
const atATime = 200;

/** What cannot be read of a bundle: which file, and which line of it. */
const notRead = (where: string, why: string): Refusal =>
  new Refusal(422, 'no-bundle', `${where}: ${why} Nothing was kept.`);

/**
 * Reads a bundle: every row by its schema. How much it unpacks to is looked at before it is. Throws {@link Refusal}
 * 422, naming file and line.
 */
export async function readBundle(bytes: Uint8Array): Promise<ReadBundle> {
  const files = await unpacked(bytes);
  const textOf = (name: string): string => {
    const file = files.get(name);
    if (!file) throw notRead(name, 'It is missing; take everything out of the company once more.');
    try {
      return new TextDecoder('utf-8', { fatal: true }).decode(file);
    } catch {
      throw notRead(name, 'It is no text in UTF-8.');
    }
  };
  const head = readJson('company.json', textOf('company.json'), bundleHead);
  const rowsOf = async <File extends BundleFile>(file: File): Promise<BundleRow<File>[]> => {
    const rows: BundleRow<File>[] = [];
    const name = `${file}.jsonl`;
    if (laterBundleFiles.includes(file) && !files.has(name)) return rows;
    for (const [at, line] of linesOf(textOf(name)).entries()) {
      rows.push(readJson(`${name}, line ${at + 1}`, line, bundleFiles[file]));
      // Whoever else calls has a turn meanwhile.
      if (at % atATime === atATime - 1) await setImmediate();
    }
    return rows;
  };
  const rows: BundleRows = {
    settings: await rowsOf('settings'),
    accounts: await rowsOf('accounts'),
    accountsOfRoles: await rowsOf('accountsOfRoles'),
    ledgerBalances: await rowsOf('ledgerBalances'),
    indexes: await rowsOf('indexes'),
    fixings: await rowsOf('fixings'),
    instruments: await rowsOf('instruments'),
    versions: await rowsOf('versions'),
    accountsOfInstruments: await rowsOf('accountsOfInstruments'),
    papers: await rowsOf('papers'),
    periods: await rowsOf('periods'),
    entries: await rowsOf('entries'),
    reported: await rowsOf('reported'),
    reportedFunds: await rowsOf('reportedFunds'),
    leftOut: await rowsOf('leftOut'),
    scenarios: await rowsOf('scenarios'),
    scenarioChanges: await rowsOf('scenarioChanges'),
  };
  const papers = new Map<number, Uint8Array>();
  for (const [name, file] of files) {
    const place = /^papers\/([1-9]\d{0,8})$/.exec(name);
    if (place) papers.set(Number(place[1]), file);
    else if (!isKnown(name)) throw notRead(name, 'This is no part of a company.');
  }
  return { head, rows, papers };
}

const linesOf = (text: string): string[] => text.split('\n').filter((line) => line !== '');

/** Documents are there to be read by people; what counts are versions. */
function isKnown(name: string): boolean {
  if (name === 'company.json' || name.startsWith('documents/')) return true;
  return Object.keys(bundleFiles).some((file) => name === `${file}.jsonl`);
}

function readJson<Schema extends v.GenericSchema>(
  where: string,
  text: string,
  schema: Schema,
): v.InferOutput<Schema> {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw notRead(where, 'It is no JSON.');
  }
  const read = v.safeParse(schema, value);
  if (read.success) return read.output;
  const [fault] = faultsOf(read.issues);
  throw notRead(where, `${fault?.key ?? ''}: ${fault?.message ?? ''}`);
}

function unpacked(bytes: Uint8Array): Promise<Map<string, Uint8Array>> {
  let size = 0;
  return new Promise((resolve, reject) => {
    const broken = (): void => {
      reject(notRead('The file', 'It is no ZIP that can be read.'));
    };
    try {
      unzip(
        bytes,
        {
          filter: ({ name, originalSize }) => {
            size += originalSize;
            if (size > mostUnpackedBytes)
              throw notRead('The file', 'What is packed in it is more than 1 GB.');
            return !name.endsWith('/');
          },
        },
        (error, files) => {
          if (error) broken();
          else resolve(new Map(Object.entries(files)));
        },
      );
    } catch (error) {
      if (error instanceof Refusal) reject(error);
      else broken();
    }
  });
}
