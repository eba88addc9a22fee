import type { Knex } from 'knex';

/** Papers whose bytes are no longer those that were brought, by their hash. */
export async function wrongPapers(database: Knex, { id }: { readonly id: number }): Promise<string[]> {
  const names = await database('paper')
    .where({ company_id: id })
    .whereNotNull('content')
    .whereRaw('sha256(content) is distinct from sha256')
    .orderBy('name')
    .pluck<string[]>('name');
  return names.map((name) => `The paper ${name} is not what was brought: its hash is another.`);
}
