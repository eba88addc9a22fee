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

/** What is wrong with the audit trail, in sentences. */
export async function wrongTrail(database: Knex): Promise<string[]> {
  const { broken, from, to } = await checkTrail(database);
  if (broken === null) return [];
  return [
    `The audit trail from event ${from ?? 0} to ${to ?? 0} breaks at event ${broken}: it was changed, or one before it is gone.`,
  ];
}
