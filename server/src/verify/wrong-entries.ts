import type { Knex } from 'knex';
import type { Company } from '../company/company-store.ts';

/** Entries that do not balance, and gaps in their numbers. */
export async function wrongEntries(database: Knex, { id }: Company): Promise<string[]> {
  const unbalanced = await database('entry')
    .leftJoin('entry_line', (on) => {
      on.on('entry_line.company_id', 'entry.company_id').andOn('entry_line.number', 'entry.number');
    })
    .where('entry.company_id', id)
    .groupBy('entry.number')
    .havingRaw('coalesce(sum(debit), 0) <> coalesce(sum(credit), 0) or count(role) < 2')
    .orderBy('entry.number')
    .pluck<number[]>('entry.number');
  const [numbers] = await database('company')
    .leftJoin('entry', 'entry.company_id', 'company.id')
    .where('company.id', id)
    .groupBy('company.id')
    .select<{ last: number; highest: number; many: number }[]>(
      'last_entry_number as last',
      database.raw('coalesce(max(number), 0)::int as highest'),
      database.raw('count(number)::int as many'),
    );
  const { last = 0, highest = 0, many = 0 } = numbers ?? {};
  const gap = last === highest && highest === many;
  return [
    ...unbalanced.map((number) => `Entry ${number} does not balance.`),
    ...(gap ? [] : [`${many} entries are there, numbered to ${highest}; the last given number is ${last}.`]),
  ];
}
