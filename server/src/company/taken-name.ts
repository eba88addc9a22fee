import type { Knex } from 'knex';
import type { Fault } from '@coffer/contract';

/**
 * What is wrong with the name of a company: nothing, or that another one has it; capitals tell no two apart.
 *
 * @param key of the name where it was typed
 * @param except the company that has it itself
 */
export async function takenName(
  database: Knex,
  name: string,
  key: string,
  except?: number,
): Promise<Fault[]> {
  const found = await database('company').whereRaw('lower(name) = lower(?)', name).select('id');
  if (found.every(({ id }) => id === except)) return [];
  return [{ key, message: 'A company of this name is kept here already; give this one another name.' }];
}
