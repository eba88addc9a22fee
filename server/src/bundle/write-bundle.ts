import { Zip, ZipDeflate, ZipPassThrough } from 'fflate';
import type { Knex } from 'knex';
import { bundleVersion, type BundleFile, type BundleHead } from '@coffer/contract';
import { trailHead } from '../audit/trail.ts';
import { companyOf } from '../company/company-store.ts';
import { bundleSources, came, inFile } from './bundle-sources.ts';

/** Takes bytes of a file, one after another. */
export type Write = (chunk: Uint8Array) => Promise<void>;

/** Rows that are read at once, unless they are large. */
const usually = 5000;

/**
 * Writes everything that a company has as a ZIP, as it stood at one moment: a line of JSON for each row, the bytes of
 * its papers, and the newest document of each instrument to be read by people and taken on elsewhere.
 */
export async function writeBundle(database: Knex, companyId: number, write: Write): Promise<void> {
  await database.transaction(
    async (on) => {
      const places = await placesOf(on, companyId);
      const zip = new OneByOne(write);
      const { name, currency, fiscalYearEndMonth, booksFrom } = await companyOf(on, companyId);
      const madeAt = new Date().toISOString();
      const trail = await trailHead(on);
      const head: BundleHead = {
        bundle: bundleVersion,
        madeAt,
        name,
        currency,
        fiscalYearEndMonth,
        booksFrom,
        ...(trail && { trail }),
      };
      await zip.file('company.json', [`${JSON.stringify(head, undefined, 2)}\n`]);
      for (const file of Object.keys(bundleSources) as BundleFile[])
        await zip.file(`${file}.jsonl`, linesOf(on, companyId, file, places));
      await papers(on, companyId, zip);
      await documents(on, companyId, places, zip);
      await zip.end();
    },
    { isolationLevel: 'repeatable read', readOnly: true },
  );
}

/** The places of instruments within a bundle, from 1, by their ids here. */
type Places = ReadonlyMap<string, number>;

async function placesOf(on: Knex, companyId: number): Promise<Places> {
  const ids = await on('instrument')
    .where({ company_id: companyId })
    .orderByRaw(came)
    .pluck<string[]>('instrument.id');
  return new Map(ids.map((id, at) => [id, at + 1]));
}

async function* linesOf(on: Knex, company: number, file: BundleFile, places: Places): AsyncGenerator<string> {
  const { select, from, where = 'company_id = :company', order, atATime = usually } = bundleSources[file];
  const listed = `select ${select} from ${from} where ${where} order by ${order}`;
  await on.raw(
    `declare bundle_rows no scroll cursor for select to_jsonb(listed) as row from (${listed}) listed`,
    { company },
  );
  for (;;) {
    const { rows } = await on.raw<{ rows: { row: Row }[] }>(`fetch ${atATime} from bundle_rows`);
    if (rows.length > 0) yield rows.map(({ row }) => `${JSON.stringify(inWords(row, places))}\n`).join('');
    if (rows.length < atATime) break;
  }
  await on.raw('close bundle_rows');
}

type Row = Record<string, unknown>;

/** A row in the words of a file. */
const inWords = (row: Row, places: Places): Row =>
  Object.fromEntries(
    Object.entries(row).map(([column, value]) => [
      inFile(column),
      column === 'instrument' ? places.get(String(value)) : value,
    ]),
  );

/** The bytes of papers, in the order in which their file lists them; one that was taken away has none. */
async function papers(on: Knex, companyId: number, zip: OneByOne): Promise<void> {
  const listed = (await on('paper')
    .join('instrument', 'instrument.id', 'paper.instrument_id')
    .where('paper.company_id', companyId)
    .orderByRaw(`${came}, kept_at, sha256`)
    .pluck('paper.id')) as string[];
  for (const [at, id] of listed.entries()) {
    const row = await on('paper').where({ id }).first('content');
    if (row?.content) await zip.packed(`papers/${at + 1}`, row.content);
  }
}

async function documents(on: Knex, companyId: number, places: Places, zip: OneByOne): Promise<void> {
  const listed = await on('instrument')
    .join('instrument_version', function () {
      this.on('instrument_version.instrument_id', 'instrument.id').andOn(
        'instrument_version.version',
        'instrument.version',
      );
    })
    .where({ company_id: companyId, withdrawn_at: null })
    .orderByRaw(came)
    .select<{ id: string; name: string; document: unknown }[]>('instrument.id', 'name', 'document');
  for (const { id, name, document } of listed) {
    const safe = name.replaceAll(/[/\\:*?"<>|\p{Cc}]/gu, ' ').slice(0, 100);
    await zip.file(`documents/${places.get(id) ?? 0} ${safe}.json`, [
      `${JSON.stringify(document, undefined, 2)}\n`,
    ]);
  }
}

/** A ZIP that is written file by file, and never held whole. */
class OneByOne {
  private readonly waiting: Uint8Array[] = [];
  private failed: Error | undefined;
  private readonly zip = new Zip((error, chunk) => {
    if (error) this.failed = error;
    else this.waiting.push(chunk);
  });

  constructor(private readonly write: Write) {}

  async file(name: string, texts: Iterable<string> | AsyncIterable<string>): Promise<void> {
    const entry = new ZipDeflate(name, { level: 6 });
    this.zip.add(entry);
    for await (const text of texts) {
      entry.push(Buffer.from(text));
      await this.flush();
    }
    entry.push(new Uint8Array(), true);
    await this.flush();
  }

  /** Bytes that are packed already. */
  async packed(name: string, bytes: Uint8Array): Promise<void> {
    const entry = new ZipPassThrough(name);
    this.zip.add(entry);
    entry.push(bytes, true);
    await this.flush();
  }

  async end(): Promise<void> {
    this.zip.end();
    await this.flush();
  }

  private async flush(): Promise<void> {
    for (const chunk of this.waiting.splice(0)) await this.write(chunk);
    if (this.failed) throw this.failed;
  }
}
