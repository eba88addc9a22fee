import type { Knex } from 'knex';

/** The posted entries of a company, each with its lines. */
export function entryLines(database: Knex, companyId: number): Knex.QueryBuilder {
  return database('entry')
    .join('entry_line', (on) => {
      on.on('entry_line.company_id', 'entry.company_id').andOn('entry_line.number', 'entry.number');
    })
    .where('entry.company_id', companyId);
}
