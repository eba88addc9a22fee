import type { Knex } from 'knex';
import type { ScenarioChange, ScenarioView } from '@coffer/contract';
import { faultyInput, Refusal } from '../http/refusal.ts';
import type { Maker } from '../instruments/instrument-store.ts';

/** A scenario as it is sent to be kept. */
export interface SentScenario {
  readonly name: string;
  readonly changes: readonly ScenarioChange[];
}

/** Every scenario of a company, by name. */
export async function allScenarios(database: Knex, companyId: number): Promise<ScenarioView[]> {
  return scenariosWhere(database, { 'scenario.company_id': companyId });
}

/** One scenario. Throws {@link Refusal} 404. */
export async function oneScenario(database: Knex, companyId: number, id: string): Promise<ScenarioView> {
  const [found] = await scenariosWhere(database, { 'scenario.company_id': companyId, 'scenario.id': id });
  if (!found) throw noSuchScenario();
  return found;
}

const noSuchScenario = (): Refusal =>
  new Refusal(404, 'no-such-scenario', 'There is no such scenario; it may have been taken away meanwhile.');

interface ChangeRow {
  readonly scenario_id: string;
  readonly instrument_id: string;
  readonly instrument_version: number;
  readonly change: Omit<ScenarioChange, 'instrumentId' | 'version'>;
  readonly name: string;
  readonly version: number;
  readonly withdrawn_at: Date | null;
}

async function scenariosWhere(database: Knex, where: Record<string, unknown>): Promise<ScenarioView[]> {
  const rows = await database('scenario')
    .leftJoin('person', 'person.id', 'scenario.changed_by')
    .where(where)
    .orderByRaw('lower(scenario.name)')
    .select<{ id: string; revision: number; name: string; changed_at: Date; by: string | null }[]>(
      'scenario.id',
      'scenario.revision',
      'scenario.name',
      'scenario.changed_at',
      'person.name as by',
    );
  const changes = await database('scenario_change')
    .join('instrument', 'instrument.id', 'scenario_change.instrument_id')
    .whereIn(
      'scenario_id',
      rows.map(({ id }) => id),
    )
    .orderBy('place')
    .select<ChangeRow[]>(
      'scenario_id',
      'instrument_id',
      'instrument_version',
      'change',
      'instrument.name',
      'instrument.version',
      'instrument.withdrawn_at',
    );
  return rows.map(({ id, revision, name, changed_at: at, by }) => ({
    id,
    revision,
    name,
    by: by ?? '',
    at: at.toISOString(),
    changes: changes
      .filter((change) => change.scenario_id === id)
      .map((change) => ({
        instrumentId: change.instrument_id,
        version: change.instrument_version,
        ...change.change,
        name: change.name,
        newest: change.version,
        withdrawn: change.withdrawn_at !== null,
      })),
  }));
}

/** Keeps a new scenario; its id. Throws {@link Refusal} when its name is taken or an instrument is not there. */
export async function insertScenario(
  database: Knex,
  by: Maker,
  { name, changes }: SentScenario,
): Promise<string> {
  await refuseTakenName(database, by.companyId, name);
  const [row] = await database('scenario')
    .insert({ company_id: by.companyId, name, changed_by: by.id })
    .returning('id');
  const id = (row as { id: string }).id;
  await insertChanges(database, by.companyId, id, changes);
  return id;
}

/** Replaces a scenario's name and changes. Throws {@link Refusal} 404, or 409 when it was changed meanwhile. */
export async function updateScenario(
  database: Knex,
  by: Maker,
  id: string,
  { revision, name, changes }: SentScenario & { readonly revision: number },
): Promise<void> {
  await lockScenario(database, by.companyId, id, revision);
  await refuseTakenName(database, by.companyId, name, id);
  await database('scenario')
    .where({ id })
    .update({ name, revision: revision + 1, changed_by: by.id, changed_at: database.fn.now() });
  await database('scenario_change').where({ scenario_id: id }).delete();
  await insertChanges(database, by.companyId, id, changes);
}

/** Takes a scenario away; its name. Throws {@link Refusal} 404, or 409 when it was changed meanwhile. */
export async function deleteScenario(
  database: Knex,
  companyId: number,
  id: string,
  revision: number,
): Promise<string> {
  const name = await lockScenario(database, companyId, id, revision);
  await database('scenario').where({ id }).delete();
  return name;
}

/** Holds a scenario at a revision until the transaction ends; its name. Throws as {@link deleteScenario}. */
export async function lockScenario(
  database: Knex,
  companyId: number,
  id: string,
  revision: number,
): Promise<string> {
  const row = await database('scenario')
    .where({ company_id: companyId, id })
    .forUpdate()
    .first('name', 'revision');
  if (!row) throw noSuchScenario();
  if (row.revision === revision) return row.name;
  throw new Refusal(
    409,
    'stale-revision',
    `The scenario ${row.name} was changed meanwhile by somebody else; look at it as it is now, and make the change anew.`,
  );
}

async function insertChanges(
  database: Knex,
  companyId: number,
  id: string,
  changes: readonly ScenarioChange[],
): Promise<void> {
  await refuseUnknown(database, companyId, changes);
  await database('scenario_change').insert(
    changes.map(({ instrumentId, version, ...change }, place) => ({
      scenario_id: id,
      place,
      instrument_id: instrumentId,
      instrument_version: version,
      change: JSON.stringify(change),
    })),
  );
}

/** Throws {@link Refusal} 404 for what the company does not owe, 422 for a version that there is not. */
async function refuseUnknown(
  database: Knex,
  companyId: number,
  changes: readonly ScenarioChange[],
): Promise<void> {
  const rows = await database('instrument')
    .where({ company_id: companyId, kind: 'debt' })
    .whereIn(
      'id',
      changes.map(({ instrumentId }) => instrumentId),
    )
    .select('id', 'version');
  const newest = new Map(rows.map((row) => [row.id, row.version]));
  if (newest.size < changes.length) {
    const message = 'There is no such instrument in this company’s register.';
    throw new Refusal(404, 'no-such-instrument', message);
  }
  const faults = changes.flatMap(({ instrumentId, version }, at) => {
    const last = newest.get(instrumentId) ?? 0;
    if (version <= last) return [];
    const message = `Found ${version}; the newest version of the instrument is ${last}.`;
    return [{ key: `changes.${at}.version`, message }];
  });
  if (faults.length > 0) throw faultyInput(faults);
}

async function refuseTakenName(
  database: Knex,
  companyId: number,
  name: string,
  except?: string,
): Promise<void> {
  const taken = await database('scenario')
    .where({ company_id: companyId })
    .whereRaw('lower(name) = lower(?)', name)
    .first('id');
  if (taken && taken.id !== except) {
    throw new Refusal(409, 'name-taken', `There is already a scenario named ${name}.`, [
      { key: 'name', message: 'Another scenario has this name; choose one that tells them apart.' },
    ]);
  }
}
