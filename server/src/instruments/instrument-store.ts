import type { Knex } from 'knex';
import { isOwed, type AnyDocument } from '@coffer/contract';
import { inChunks } from '../database/in-chunks.ts';
import type { InstrumentRow } from '../database/tables.ts';
import { Refusal } from '../http/refusal.ts';
import type { StoredVersion } from './known-instruments.ts';

/** Who makes a change; `id` is null for what is loaded when a company is set up. */
export interface Maker {
  readonly companyId: number;
  readonly id: number | null;
}

const noSuchInstrument = (): Refusal =>
  new Refusal(404, 'no-such-instrument', 'There is no such instrument in this company’s register.');

/** The newest version of everything that a company owes, by name, but of what is withdrawn. */
export function newestVersions(database: Knex, companyId: number): Promise<StoredVersion[]> {
  return newestOfKind(database, companyId, 'debt');
}

/** The newest version of every fund of a company, by name, but of those withdrawn. */
export function newestFunds(database: Knex, companyId: number): Promise<StoredVersion[]> {
  return newestOfKind(database, companyId, 'fund');
}

function newestOfKind(
  database: Knex,
  companyId: number,
  kind: InstrumentRow['kind'],
): Promise<StoredVersion[]> {
  return versions(database)
    .where({ company_id: companyId, kind })
    .whereNull('withdrawn_at')
    .orderByRaw('lower(instrument.name)');
}

/** The last version of all of a kind that a company withdrew, by name. */
export function withdrawnVersions(
  database: Knex,
  companyId: number,
  kind: InstrumentRow['kind'] = 'debt',
): Promise<StoredVersion[]> {
  return (
    versions(database)
      .where({ company_id: companyId, kind })
      .whereNotNull('withdrawn_at')
      // A name is free again once what had it is withdrawn.
      .orderByRaw('lower(instrument.name), instrument.id')
  );
}

/** The newest version of one instrument. Throws {@link Refusal} 404. */
export async function newestVersion(database: Knex, companyId: number, id: string): Promise<StoredVersion> {
  const [found] = await versions(database).where({ company_id: companyId, 'instrument.id': id });
  if (!found) throw noSuchInstrument();
  return found;
}

/** The newest version of some instruments. Throws {@link Refusal} 404 when one is not there. */
export async function newestVersionsOf(
  database: Knex,
  companyId: number,
  ids: readonly string[],
): Promise<StoredVersion[]> {
  const found = await versions(database)
    .where({ company_id: companyId })
    .whereIn('instrument.id', [...ids]);
  if (found.length < ids.length) throw noSuchInstrument();
  return found;
}

/** One version of an instrument, whatever the newest is. Throws {@link Refusal} 404. */
export async function versionOf(database: Knex, id: string, version: number): Promise<StoredVersion> {
  const found = await database('instrument_version')
    .where({ instrument_id: id, version })
    .first<{ document: string } | undefined>(documentAsText(database));
  if (!found) throw new Refusal(404, 'no-such-version', `The instrument has no version ${version}.`);
  return { id, version, document: found.document };
}

/** A version's document as its text, so that it is read where it is needed and nowhere else. */
export function documentAsText(database: Knex): Knex.Raw {
  return database.raw('instrument_version.document::text as document');
}

/** The version of an instrument that a closed month reported; `undefined` where the day ends none. */
export async function reportedVersion(
  database: Knex,
  id: string,
  periodEnd: string,
): Promise<StoredVersion | undefined> {
  const row = await database('reported_position')
    .where({ instrument_id: id, period_end: periodEnd })
    .first('instrument_version');
  return row && versionOf(database, id, row.instrument_version);
}

type VersionsQuery = Knex.QueryBuilder<object, StoredVersion[]>;

function versions(database: Knex): VersionsQuery {
  return database<object, StoredVersion[]>('instrument')
    .join('instrument_version', (on) => {
      on.on('instrument_version.instrument_id', 'instrument.id').andOn(
        'instrument_version.version',
        'instrument.version',
      );
    })
    .select('instrument.id', 'instrument.version', documentAsText(database)) as VersionsQuery;
}

/** Stores a new instrument under an id. Throws {@link Refusal} when its name is taken. */
export async function insertInstrument(
  database: Knex,
  by: Maker,
  id: string,
  document: AnyDocument,
  reason: string,
): Promise<void> {
  await refuseTakenName(database, by.companyId, document.name);
  await insertInstruments(database, by, [{ id, document }], reason);
}

/** An instrument that is stored for the first time. */
export interface NewInstrument {
  readonly id: string;
  readonly document: AnyDocument;
}

/** Stores new instruments; the database refuses a name that is taken. */
export async function insertInstruments(
  database: Knex,
  by: Maker,
  all: readonly NewInstrument[],
  reason: string,
): Promise<void> {
  const rows = all.map(({ id, document }) => ({
    id,
    company_id: by.companyId,
    name: document.name,
    kind: isOwed(document) ? ('debt' as const) : ('fund' as const),
    version: 1,
  }));
  await inChunks(rows, (chunk) => database('instrument').insert(chunk));
  await insertVersions(
    database,
    by,
    all.map(({ id, document }) => ({ id, version: 1, document, reason })),
  );
}

/** The names that instruments of a company have, in small letters, but of those withdrawn. */
export async function takenNames(database: Knex, companyId: number): Promise<ReadonlySet<string>> {
  const names = await database('instrument')
    .where({ company_id: companyId })
    .whereNull('withdrawn_at')
    .pluck<string[]>('name');
  return new Set(names.map((name) => name.toLowerCase()));
}

/** A version to store after another one. */
export interface NextVersion {
  readonly id: string;
  /** The version it was made from. */
  readonly from: number;
  readonly document: AnyDocument;
  readonly reason: string;
}

/** Stores the next version of instruments. Throws {@link Refusal} 409 when one was not made from the newest. */
export async function insertNextVersions(
  database: Knex,
  by: Maker,
  changes: readonly NextVersion[],
): Promise<void> {
  const ids = changes.map(({ id }) => id);
  const rows = await database('instrument')
    .where({ company_id: by.companyId })
    .whereIn('id', [...ids])
    .orderBy('id')
    .forUpdate()
    .select('id', 'name', 'version', 'withdrawn_at');
  const known = new Map(rows.map((row) => [row.id, row]));
  for (const { id, from, document } of changes) {
    const row = known.get(id);
    if (!row) throw noSuchInstrument();
    refuseWithdrawn(row);
    if (row.version !== from) throw changedMeanwhile(row, from);
    if (row.name === document.name) continue;
    await refuseTakenName(database, by.companyId, document.name, id);
    await database('instrument').where({ id }).update({ name: document.name });
  }
  await insertVersions(
    database,
    by,
    changes.map(({ from, ...change }) => ({ ...change, version: from + 1 })),
  );
  await database('instrument')
    .whereIn('id', [...ids])
    .update({ version: database.raw('version + 1') });
}

type StoredInstrument = Pick<InstrumentRow, 'id' | 'name' | 'version' | 'withdrawn_at'>;

function refuseWithdrawn({ name, withdrawn_at: at }: StoredInstrument): void {
  if (at === null) return;
  const message = `${name} is withdrawn and stays as it was; take it on anew where it is meant after all.`;
  throw new Refusal(409, 'withdrawn', message);
}

/** Withdraws an instrument. Throws {@link Refusal} 404, or 409 when it is withdrawn or was changed meanwhile. */
export async function withdrawInstrument(
  database: Knex,
  by: Maker,
  id: string,
  { version, reason }: { readonly version: number; readonly reason: string },
): Promise<void> {
  const row = await database('instrument')
    .where({ company_id: by.companyId, id })
    .forUpdate()
    .first('id', 'name', 'version', 'withdrawn_at');
  if (!row) throw noSuchInstrument();
  refuseWithdrawn(row);
  if (row.version !== version) throw changedMeanwhile(row, version);
  await database('instrument')
    .where({ id })
    .update({ withdrawn_at: database.fn.now(), withdrawn_by: by.id, withdrawn_because: reason });
}

function changedMeanwhile({ name, version }: { name: string; version: number }, from: number): Refusal {
  return new Refusal(
    409,
    'stale-version',
    `The instrument was changed meanwhile: ${name} is at version ${version}, and this change was made from version ${from}. Load it again and make the change anew.`,
  );
}

async function insertVersions(
  database: Knex,
  by: Maker,
  versions: readonly (Omit<NextVersion, 'from'> & { readonly version: number })[],
): Promise<void> {
  const rows = versions.map(({ id, version, document, reason }) => ({
    instrument_id: id,
    version,
    document: JSON.stringify(document),
    reason,
    made_by: by.id,
  }));
  await inChunks(rows, (chunk) => database('instrument_version').insert(chunk));
}

async function refuseTakenName(
  database: Knex,
  companyId: number,
  name: string,
  except?: string,
): Promise<void> {
  const taken = await database('instrument')
    .where({ company_id: companyId })
    .whereNull('withdrawn_at')
    .whereRaw('lower(name) = lower(?)', name)
    .first('id');
  if (taken && taken.id !== except) {
    throw new Refusal(409, 'name-taken', `There is already an instrument named ${name}.`, [
      { key: 'name', message: 'Another instrument has this name; choose one that tells them apart.' },
    ]);
  }
}
