import type { Request } from 'express';
import { createHash } from 'node:crypto';
import type { Knex } from 'knex';
import * as v from 'valibot';
import { Refusal } from './refusal.ts';

const keyShape = v.pipe(v.string(), v.uuid());

/** What a call that acts once is told by: whose it is, its key, and a hash over all that it asks. */
interface Once {
  readonly personId: number;
  readonly key: string;
  readonly hash: string;
}

/** Keys whose calls are under way in this process. */
const underWay = new Set<string>();

/**
 * Acts once for a key. What it answered before is answered again; a call of the same key that is under way is not waited
 * for, here or at another server. Throws {@link Refusal} 400 without a key, 409 when the key came with another request
 * before, or its call is under way.
 *
 * @param bodyHash of the bytes that were sent
 * @param act does the work in a transaction of its own, and hands what it answers to `keep` within it
 */
export async function answerOnce<Answer>(
  database: Knex,
  request: Request,
  person: { readonly id: number; readonly companyId: number },
  bodyHash: string,
  act: (claimed: (on: Knex, work: () => Promise<Answer>) => Promise<Answer>) => Promise<Answer>,
): Promise<Answer> {
  const once = onceOf(request, person, bodyHash);
  const before = await answered<Answer>(database, once);
  if (before) return before.answer;
  const mine = `${once.personId} ${once.key}`;
  if (underWay.has(mine)) throw inProgress();
  underWay.add(mine);
  try {
    return await act((on, work) => claim(on, once, work));
  } finally {
    underWay.delete(mine);
  }
}

function onceOf(
  request: Request,
  person: { readonly id: number; readonly companyId: number },
  bodyHash: string,
): Once {
  const key = request.get('idempotency-key');
  if (!v.is(keyShape, key)) {
    throw new Refusal(
      400,
      'no-idempotency-key',
      'Send a header Idempotency-Key with a fresh UUID for each new action.',
    );
  }
  const text = JSON.stringify([request.method, request.originalUrl, person.companyId, bodyHash]);
  return { personId: person.id, key, hash: createHash('sha256').update(text).digest('hex') };
}

/** Claims a key in the transaction of the work, and keeps its answer there. */
async function claim<Answer>(on: Knex, once: Once, work: () => Promise<Answer>): Promise<Answer> {
  const { personId, key, hash } = once;
  // Whoever has it at another server holds it until that transaction ends.
  const { rows } = await on.raw<{ rows: { free: boolean }[] }>(
    'select pg_try_advisory_xact_lock(hashtextextended(?, 0)) as free',
    [`idempotency ${personId} ${key}`],
  );
  if (!rows[0]?.free) throw inProgress();
  const claimed = await on('idempotency_key')
    .insert({ person_id: personId, key, request_hash: hash })
    .onConflict(['person_id', 'key'])
    .ignore()
    .returning('key');
  if (claimed.length === 0) {
    const before = await answered<Answer>(on, once);
    if (!before) throw new Error(`The answer under the key ${key} is gone.`);
    return before.answer;
  }
  const answer = await work();
  await on('idempotency_key')
    .where({ person_id: personId, key })
    .update({ answer: JSON.stringify(answer) });
  return answer;
}

/** What was answered under a key. Throws {@link Refusal} 409 where that was another request. */
async function answered<Answer>(
  database: Knex,
  { personId, key, hash }: Once,
): Promise<{ readonly answer: Answer } | undefined> {
  const before = await database('idempotency_key')
    .where({ person_id: personId, key })
    .first<{ request_hash: string; answer: Answer } | undefined>();
  if (before && before.request_hash !== hash) {
    throw new Refusal(
      409,
      'key-reused',
      'This Idempotency-Key was used for another request; send a fresh one.',
    );
  }
  return before;
}

function inProgress(): Refusal {
  return new Refusal(
    409,
    'in-progress',
    'The same call is under way, and is not done twice. Ask again under the same key to hear how it ended.',
    undefined,
    undefined,
    1,
  );
}
