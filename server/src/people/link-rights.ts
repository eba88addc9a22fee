import type { Knex } from 'knex';
import type { LinkRow } from '../database/tables.ts';
import { Refusal } from '../http/refusal.ts';

/** The companies of a person, those that they are suspended from too. */
async function companiesOf(database: Knex, personId: number): Promise<number[]> {
  const rows = await database('member').where({ person_id: personId }).select('company_id');
  return rows.map(({ company_id }) => company_id);
}

/** The companies that a person administers at this moment. */
async function administeredBy(database: Knex, personId: number): Promise<Set<number>> {
  const rows = await database('member')
    .where({ person_id: personId, suspended_at: null })
    .whereRaw(`'administer' = any (role)`)
    // Who is being suspended at this moment is waited for.
    .forShare()
    .select('company_id');
  return new Set(rows.map(({ company_id }) => company_id));
}

/**
 * Whether somebody may bring about a new password of another: it reaches all companies of theirs, those that they are
 * suspended from too, so that only who administers all of them may.
 */
export async function mayReset(database: Knex, by: number, personId: number): Promise<boolean> {
  const administered = await administeredBy(database, by);
  return (await companiesOf(database, personId)).every((companyId) => administered.has(companyId));
}

/**
 * Refuses a link of which the maker has no right any more, as things are now: who makes one administers its company, and
 * for a new password every company that the person has come to meanwhile. Throws {@link Refusal} 410.
 */
export async function refuseWithoutRight(database: Knex, link: LinkRow): Promise<void> {
  // Who keeps the machine makes links for anybody.
  if (link.made_by === null) return;
  if (await hasRight(database, link, link.made_by)) return;
  throw new Refusal(
    410,
    'link-gone',
    'Who made this link may no longer do what it does. Ask an administrator for a new one.',
  );
}

async function hasRight(database: Knex, link: LinkRow, maker: number): Promise<boolean> {
  if (!(await administeredBy(database, maker)).has(link.company_id)) return false;
  if (link.kind === 'invitation') return true;
  const person = await database('person').whereRaw('lower(log_in) = lower(?)', link.log_in).first('id');
  return person === undefined || mayReset(database, maker, person.id);
}

/** Takes back what a person has made in a company and nobody has taken up; gives whose it was. */
export async function takeBackLinksOf(database: Knex, maker: number, companyId: number): Promise<string[]> {
  const rows = await database('link')
    .where({ made_by: maker, company_id: companyId, used_at: null, taken_back_at: null })
    .update({ taken_back_at: new Date() })
    .returning('log_in');
  return rows.map(({ log_in }) => log_in);
}
