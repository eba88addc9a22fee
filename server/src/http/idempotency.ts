import { createHash } from 'node:crypto';
import type { Request } from 'express';
import type { Knex } from 'knex';
import * as v from 'valibot';
import { Refusal } from './refusal.ts';

const keyShape = v.pipe(v.string(), v.uuid());

/**
 * Acts once for a key: the key is claimed in the same transaction as the work, so a repeat waits for the first
 * and gets its answer. Throws {@link Refusal} without a key, or when the key came with another request before.
 */
export async function answerOnce<Answer>(
  database: Knex,
  request: Request,
  person: { readonly id: number; readonly companyId: number },
  act: () => Promise<Answer>,
): Promise<Answer> {
  const key = request.get('idempotency-key');
  if (!v.is(keyShape, key)) {
    throw new Refusal(
      400,
      'no-idempotency-key',
      'Send a header Idempotency-Key with a fresh UUID for each new action.',
    );
  }
  const text = JSON.stringify([request.method, request.originalUrl, person.companyId, request.body ?? null]);
  const hash = createHash('sha256').update(text).digest('hex');
  const claimed = await database('idempotency_key')
    .insert({ person_id: person.id, key, request_hash: hash })
    .onConflict(['person_id', 'key'])
    .ignore()
    .returning('key');
  const mine = { person_id: person.id, key };
  if (claimed.length === 0) {
    const before = await database('idempotency_key')
      .where(mine)
      .first<{ request_hash: string; answer: Answer }>();
    if (before.request_hash !== hash) {
      throw new Refusal(
        409,
        'key-reused',
        'This Idempotency-Key was used for another request; send a fresh one.',
      );
    }
    return before.answer;
  }
  const answer = await act();
  await database('idempotency_key')
    .where(mine)
    .update({ answer: JSON.stringify(answer) });
  return answer;
}
