import type { Knex } from 'knex';
import type { InstrumentDocument } from '@coffer/contract';
import { Refusal } from '../http/refusal.ts';
import type { StoredVersion } from './known-instruments.ts';

/** Who makes a change; `id` is null for what is loaded when a company is set up. */
export interface Maker {
  readonly companyId: number;
  readonly id: number | null;
}

const noSuchInstrument = (): Refusal =>
  new Refusal(404, 'no-such-instrument', 'There is no such instrument in this company’s register.');

/** The newest version of every instrument of a company, by name. */
export function newestVersions(database: Knex, companyId: number): Promise<StoredVersion[]> {
  return versions(database).where({ company_id: companyId }).orderByRaw('lower(instrument.name)');
}

/** The newest version of one instrument. Throws {@link Refusal} 404. */
export async function newestVersion(database: Knex, companyId: number, id: string): Promise<StoredVersion> {
  const [found] = await versions(database).where({ company_id: companyId, 'instrument.id': id });
  if (!found) throw noSuchInstrument();
  return found;
}

/** One version of an instrument, whatever the newest is. Throws {@link Refusal} 404. */
export async function versionOf(database: Knex, id: string, version: number): Promise<StoredVersion> {
  const found = await database('instrument_version')
    .where({ instrument_id: id, version })
    .first<{ document: unknown } | undefined>('document');
  if (!found) throw new Refusal(404, 'no-such-version', `The instrument has no version ${version}.`);
  return { id, version, document: found.document };
}

function versions(database: Knex): Knex.QueryBuilder<object, StoredVersion[]> {
  return database('instrument')
    .join('instrument_version', (on) => {
      on.on('instrument_version.instrument_id', 'instrument.id').andOn(
        'instrument_version.version',
        'instrument.version',
      );
    })
    .select('instrument.id', 'instrument.version', 'instrument_version.document');
}

/** Stores a new instrument. Throws {@link Refusal} when its name is taken. */
export async function insertInstrument(
  database: Knex,
  by: Maker,
  document: InstrumentDocument,
  reason: string,
): Promise<string> {
  await refuseTakenName(database, by.companyId, document.name);
  const [row] = await database('instrument')
    .insert({ company_id: by.companyId, name: document.name, version: 1 })
    .returning<{ id: string }[]>('id');
  const id = row?.id ?? '';
  await insertVersion(database, by, id, 1, document, reason);
  return id;
}

/** Stores the next version of an instrument. Throws {@link Refusal} 409 when `from` is not the newest. */
export async function insertNextVersion(
  database: Knex,
  by: Maker,
  id: string,
  from: number,
  document: InstrumentDocument,
  reason: string,
): Promise<number> {
  const row = await database('instrument')
    .where({ company_id: by.companyId, id })
    .forUpdate()
    .first<{ version: number } | undefined>('version');
  if (!row) throw noSuchInstrument();
  if (row.version !== from) {
    throw new Refusal(
      409,
      'stale-version',
      `The instrument was changed meanwhile: it is at version ${row.version}, and this change was made from version ${from}. Load it again and make the change anew.`,
    );
  }
  await refuseTakenName(database, by.companyId, document.name, id);
  await insertVersion(database, by, id, from + 1, document, reason);
  await database('instrument')
    .where({ id })
    .update({ version: from + 1, name: document.name });
  return from + 1;
}

async function insertVersion(
  database: Knex,
  by: Maker,
  id: string,
  version: number,
  document: InstrumentDocument,
  reason: string,
): Promise<void> {
  await database('instrument_version').insert({
    instrument_id: id,
    version,
    document: JSON.stringify(document),
    reason,
    made_by: by.id,
  });
}

async function refuseTakenName(
  database: Knex,
  companyId: number,
  name: string,
  except?: string,
): Promise<void> {
  const taken = await database('instrument')
    .where({ company_id: companyId })
    .whereRaw('lower(name) = lower(?)', name)
    .first<{ id: string } | undefined>('id');
  if (taken && taken.id !== except) {
    throw new Refusal(409, 'name-taken', `There is already an instrument named ${name}.`, [
      { key: 'name', message: 'Another instrument has this name; choose one that tells them apart.' },
    ]);
  }
}
