import type { Knex } from 'knex';
import { indexKey, type KeptIndex, type PublishedIndexes } from '@coffer/contract';
import { inChunks } from '../database/in-chunks.ts';
import type { FixingRow, RateIndexRow } from '../database/tables.ts';
import { Refusal } from '../http/refusal.ts';
import type { Maker } from '../instruments/instrument-store.ts';

type KeptFixing = KeptIndex['fixings'][number];

/** The fixings that count, with who kept them, newest first: the last that was kept for a day, unless it took it back. */
async function fixingsOf(database: Knex, indexIds: readonly number[]): Promise<Map<number, KeptFixing[]>> {
  const rows = await database('fixing')
    .leftJoin('person', 'person.id', 'fixing.kept_by')
    .whereIn('index_id', [...indexIds])
    .distinctOn('index_id', 'on_day')
    .orderBy([
      { column: 'index_id' },
      { column: 'on_day', order: 'desc' },
      { column: 'fixing.id', order: 'desc' },
    ])
    .select<
      (Pick<FixingRow, 'index_id' | 'on_day' | 'rate' | 'source' | 'kept_at'> & { by: string | null })[]
    >('index_id', 'on_day', 'rate', 'source', 'kept_at', 'person.name as by');
  const found = new Map<number, KeptFixing[]>(indexIds.map((id) => [id, []]));
  for (const { index_id: id, on_day: on, rate, source, kept_at: at, by } of rows) {
    if (rate !== null) found.get(id)?.push({ on, rate, source, by, at: at.toISOString() });
  }
  return found;
}

/** An index as it is kept. */
export interface StoredIndex extends Omit<KeptIndex, 'followers'> {
  readonly key: string;
}

/** The indexes of a company, by name. */
export async function indexesOf(database: Knex, companyId: number): Promise<StoredIndex[]> {
  const rows = await database('rate_index').where({ company_id: companyId }).orderBy('key');
  const fixings = await fixingsOf(
    database,
    rows.map(({ id }) => id),
  );
  return rows.map(({ id, key, name, revision }) => ({ key, name, revision, fixings: fixings.get(id) ?? [] }));
}

/** What a company's indexes have published, by the key of the index. */
export async function publishedOf(database: Knex, companyId: number): Promise<PublishedIndexes> {
  const indexes = await indexesOf(database, companyId);
  return Object.fromEntries(
    indexes.map(({ key, fixings }) => [key, fixings.map(({ on, rate }) => ({ on, rate }))]),
  );
}

/** How many instruments of the register follow each index, by its key, with its name as the first of them has it. */
export async function followersOf(
  database: Knex,
  companyId: number,
): Promise<Map<string, { name: string; followers: number }>> {
  const rows = await following(database, companyId).select<{ id: string; index: string }[]>(
    'instrument.id',
    nameOfIndex(database),
  );
  const found = new Map<string, { name: string; followers: number }>();
  for (const { index } of rows) {
    const key = indexKey(index);
    found.set(key, { name: found.get(key)?.name ?? index, followers: (found.get(key)?.followers ?? 0) + 1 });
  }
  return found;
}

/** The instruments of the register that follow an index. */
export async function idsFollowing(database: Knex, companyId: number, key: string): Promise<string[]> {
  const rows = await following(database, companyId).select<{ id: string; index: string }[]>(
    'instrument.id',
    nameOfIndex(database),
  );
  return rows.flatMap(({ id, index }) => (indexKey(index) === key ? [id] : []));
}

const nameOfIndex = (database: Knex): Knex.Raw =>
  database.raw(`instrument_version.document #>> '{rate,index,name}' as index`);

function following(database: Knex, companyId: number): Knex.QueryBuilder {
  return database('instrument')
    .join('instrument_version', (on) => {
      on.on('instrument_version.instrument_id', 'instrument.id').andOn(
        'instrument_version.version',
        'instrument.version',
      );
    })
    .where({ company_id: companyId, kind: 'debt' })
    .whereNull('withdrawn_at')
    .whereRaw(`instrument_version.document #>> '{rate,index,name}' is not null`)
    .orderByRaw('lower(instrument.name)');
}

/** An index that is held until the transaction ends, made where there is none. */
async function heldIndex(database: Knex, companyId: number, name: string): Promise<RateIndexRow> {
  const of = { company_id: companyId, key: indexKey(name) };
  await database('rate_index')
    .insert({ ...of, name: name.trim() })
    .onConflict(['company_id', 'key'])
    .ignore();
  const row = await database('rate_index').where(of).forUpdate().first();
  if (!row) throw new Error(`The index ${name} was not kept.`);
  return row;
}

/** What is kept of an index. */
export interface NewFixings {
  readonly index: string;
  /** The revision that it was looked at in; 0 where it was not there. */
  readonly revision: number;
  readonly fixings: readonly { readonly on: string; readonly rate: string | null }[];
  readonly source: FixingRow['source'];
  readonly reason: string;
}

/** Keeps fixings of an index, in a transaction. Throws {@link Refusal} 409 where somebody else kept some meanwhile. */
export async function keepFixings(
  database: Knex,
  by: Maker,
  { index, revision, fixings, source, reason }: NewFixings,
): Promise<void> {
  const held = await heldIndex(database, by.companyId, index);
  if (held.revision !== revision) {
    throw new Refusal(
      409,
      'stale-version',
      `Somebody else kept fixings of ${held.name} meanwhile, and nothing was changed. Look at them anew.`,
    );
  }
  await database('rate_index')
    .where({ id: held.id })
    .update({ revision: held.revision + 1 });
  await inChunks(
    fixings.map(({ on, rate }) => ({
      index_id: held.id,
      on_day: on,
      rate,
      source,
      reason,
      kept_by: by.id,
    })),
    (chunk) => database('fixing').insert(chunk),
  );
}
