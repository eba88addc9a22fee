import { Zip, ZipDeflate, ZipPassThrough } from 'fflate';
import type { Knex } from 'knex';
import { bundleVersion, type BundleFile, type BundleHead } from '@coffer/contract';
import { trailHead } from '../audit/trail.ts';
import { companyOf } from '../company/company-store.ts';
import { bundleSources, inFile, instrumentPlaces } from './bundle-sources.ts';

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
      await on.raw(instrumentPlaces, { company: companyId });
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
        await zip.file(`${file}.jsonl`, linesOf(on, companyId, file));
      await papers(on, companyId, zip);
      await documents(on, zip);
      await zip.end();
    },
    { isolationLevel: 'repeatable read' },
  );
}

async function* linesOf(on: Knex, company: number, file: BundleFile): AsyncGenerator<string> {
  const { select, from, where = 'company_id = :company', order, atATime = usually } = bundleSources[file];
  for (let offset = 0; ; offset += atATime) {
    const { rows } = (await on.raw(
      `select to_jsonb(listed) as row from (select ${select} from ${from} where ${where} order by ${order}
         limit ${atATime} offset ${offset}) listed`,
      { company },
    )) as { rows: { row: Record<string, unknown> }[] };
    if (rows.length > 0) yield rows.map(({ row }) => `${JSON.stringify(named(row))}\n`).join('');
    if (rows.length < atATime) return;
  }
}

const named = (row: Record<string, unknown>): Record<string, unknown> =>
  Object.fromEntries(Object.entries(row).map(([column, value]) => [inFile(column), value]));

/** The bytes of papers, in the order in which their file lists them; one that was taken away has none. */
async function papers(on: Knex, companyId: number, zip: OneByOne): Promise<void> {
  const listed = (await on('paper')
    .join('instrument_place', 'instrument_place.id', 'paper.instrument_id')
    .where({ company_id: companyId })
    .orderBy(['place', 'kept_at', 'sha256'])
    .pluck('paper.id')) as string[];
  for (const [at, id] of listed.entries()) {
    const row = await on('paper').where({ id }).first('content');
    if (row?.content) await zip.packed(`papers/${at + 1}`, row.content);
  }
}

async function documents(on: Knex, zip: OneByOne): Promise<void> {
  const listed = await on('instrument')
    .join('instrument_place', 'instrument_place.id', 'instrument.id')
    .join('instrument_version', function () {
      this.on('instrument_version.instrument_id', 'instrument.id').andOn(
        'instrument_version.version',
        'instrument.version',
      );
    })
    .whereNull('withdrawn_at')
    .orderBy('place')
    .select<{ place: string; name: string; document: unknown }[]>('place', 'name', 'document');
  for (const { place, name, document } of listed) {
    const safe = name.replaceAll(/[/\\:*?"<>|\p{Cc}]/gu, ' ').slice(0, 100);
    await zip.file(`documents/${place} ${safe}.json`, [`${JSON.stringify(document, undefined, 2)}\n`]);
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
