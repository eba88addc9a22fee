import type { Knex } from 'knex';
import type { TrailChecked, TrailHead } from '@coffer/contract';

/** Follows the audit trail from its first event to its last: each holds the hash of the one before, and its own. */
export async function checkTrail(database: Knex): Promise<TrailChecked> {
  // Before people were of several companies, an event by nobody left that out of what was hashed.
  const answer = await database.raw<{
    rows: { from: string | null; to: string | null; broken: string | null }[];
  }>(
    `with event as (
       select id, previous_hash, hash, person_id, audit_event_hash(audit_event) as own,
         sha256(previous_hash || convert_to(concat_ws(E'\\x1f', id, company_id, extract(epoch from at), person_id,
           action, subject, detail), 'UTF8')) as formerly,
         lag(id) over (order by id) as id_before, lag(hash) over (order by id) as hash_before
       from audit_event)
     select min(id) as from, max(id) as to, min(id) filter (where id <> coalesce(id_before, 0) + 1
       or previous_hash <> coalesce(hash_before, ''::bytea)
       or not (hash = own or (person_id is null and hash = formerly))) as broken
     from event`,
  );
  const [found] = answer.rows;
  const number = (text: string | null | undefined): number | null =>
    text === null || text === undefined ? null : Number(text);
  return {
    from: number(found?.from),
    to: number(found?.to),
    head: (await trailHead(database))?.hash ?? null,
    broken: number(found?.broken),
  };
}

/** The last event of the audit trail, by its number and its hash in hexadecimal. */
export async function trailHead(database: Knex): Promise<TrailHead | undefined> {
  const last = await database('audit_event').orderBy('id', 'desc').first('id', 'hash');
  return last && { event: Number(last.id), hash: last.hash.toString('hex') };
}

/** What is wrong where the trail was known to stand at an event of this hash, hexadecimal: it has none any more. */
export async function wrongHead(database: Knex, hash: string): Promise<string[]> {
  const found = await database('audit_event')
    .where({ hash: Buffer.from(hash, 'hex') })
    .first('id');
  return found
    ? []
    : [`No event of the audit trail has the hash ${hash}: it was cut before it, or made anew.`];
}

/** Where each closed month says that the trail stood, and it does not stand so any more. */
async function wrongCloses(database: Knex): Promise<string[]> {
  const { rows } = await database.raw<{ rows: { company: string; ends_on: string; seen_to: number }[] }>(
    `select company.name as company, ends_on, seen_to from period join company on company.id = period.company_id
     left join audit_event on audit_event.id = seen_to
     where seen_hash is not null and audit_event.hash is distinct from seen_hash order by period.company_id, ends_on`,
  );
  return rows.map(
    ({ company, ends_on, seen_to }) =>
      `The close of ${company} to ${ends_on} tells of another event ${seen_to} of the audit trail than it has.`,
  );
}

/** What is wrong with the audit trail, in sentences. */
export async function wrongTrail(database: Knex): Promise<string[]> {
  const { broken, from, to } = await checkTrail(database);
  const ofCloses = await wrongCloses(database);
  if (broken === null) return ofCloses;
  return [
    ...ofCloses,
    `The audit trail from event ${from ?? 0} to ${to ?? 0} breaks at event ${broken}: it was changed, or one before it is gone.`,
  ];
}
