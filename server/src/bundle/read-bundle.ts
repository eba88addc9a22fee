import { setImmediate } from 'node:timers/promises';
import * as v from 'valibot';
import {
  bundleFiles,
  bundleHead,
  bundleVersion,
  faultsOf,
  laterBundleFiles,
  type BundleFile,
  type BundleHead,
  type BundleRow,
  type BundleRows,
} from '@coffer/contract';
import { Refusal } from '../http/refusal.ts';
import type { Unpacked } from '../workers/unpack-worker.ts';

/** A company as a bundle has it. */
export interface ReadBundle {
  readonly head: BundleHead;
  readonly rows: BundleRows;
  /** The bytes of papers by their place in their list, from 1. */
  readonly papers: ReadonlyMap<number, Uint8Array>;
}

/** Bytes that are read before others have a turn. */
const turn = 65_536;
/** The most that a row may be, in bytes; an instrument with all its events is well below. */
const mostRowBytes = 4 * 1_048_576;
const lineEnd = 10;

/** What cannot be read of a bundle: which file, and which line of it. */
const notRead = (where: string, why: string): Refusal =>
  new Refusal(422, 'no-bundle', `${where}: ${why} Nothing was kept.`);

/** Reads a bundle that was unpacked: every row by its schema. Throws {@link Refusal} 422, naming file and line. */
export async function readBundle(unpacked: Unpacked): Promise<ReadBundle> {
  if ('why' in unpacked) throw notRead(unpacked.where, unpacked.why);
  const { files } = unpacked;
  const fileOf = (name: string): Uint8Array => {
    const file = files.get(name);
    if (!file) throw notRead(name, 'It is missing; take everything out of the company once more.');
    return file;
  };
  refuseOtherForm(fileOf('company.json'));
  const head = readJson('company.json', fileOf('company.json'), bundleHead);
  const rowsOf = async <File extends BundleFile>(file: File): Promise<BundleRow<File>[]> => {
    const rows: BundleRow<File>[] = [];
    const name = `${file}.jsonl`;
    if (laterBundleFiles.includes(file) && !files.has(name)) return rows;
    let read = 0;
    for (const [number, line] of linesOf(fileOf(name))) {
      const where = `${name}, line ${number}`;
      if (line.length > mostRowBytes) throw notRead(where, 'It is longer than any row is.');
      rows.push(readJson(where, line, bundleFiles[file]));
      read += line.length;
      // Whoever else calls has a turn meanwhile.
      if (read > turn) {
        read = 0;
        await setImmediate();
      }
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
    toldAtClose: await rowsOf('toldAtClose'),
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

/** What another version wrote is told by its form, before anything of it is read as if it were of this one. */
function refuseOtherForm(bytes: Uint8Array): void {
  const { bundle } = readJson('company.json', bytes, v.looseObject({ bundle: v.string() }));
  if (bundle === bundleVersion) return;
  const why = `It is of the form ${bundle.slice(0, 40)}, written by another version of Coffer; this one reads ${bundleVersion}.`;
  throw notRead('company.json', why);
}

/** The lines of a file that are not empty, each with its number among them, from 1. */
function* linesOf(file: Uint8Array): Generator<[number: number, line: Uint8Array]> {
  let number = 0;
  for (let from = 0; from < file.length;) {
    const end = file.indexOf(lineEnd, from);
    const to = end === -1 ? file.length : end;
    if (to > from) yield [(number += 1), file.subarray(from, to)];
    from = to + 1;
  }
}

/** Documents are there to be read by people; what counts are versions. */
function isKnown(name: string): boolean {
  if (name === 'company.json' || name.startsWith('documents/')) return true;
  return Object.keys(bundleFiles).some((file) => name === `${file}.jsonl`);
}

function readJson<Schema extends v.GenericSchema>(
  where: string,
  bytes: Uint8Array,
  schema: Schema,
): v.InferOutput<Schema> {
  let value: unknown;
  try {
    value = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
  } catch {
    throw notRead(where, 'It is no JSON in UTF-8.');
  }
  const read = v.safeParse(schema, value);
  if (read.success) return read.output;
  const [fault] = faultsOf(read.issues);
  throw notRead(where, `${fault?.key ?? ''}: ${fault?.message ?? ''}`);
}
