import { createHash, randomBytes } from 'node:crypto';
import type { Knex } from 'knex';
import { linkHours, type LinkTarget, type LinkView, type Permission } from '@coffer/contract';
import type { LinkRow } from '../database/tables.ts';
import { Refusal } from '../http/refusal.ts';

/** What a link is made for. */
export interface LinkFor {
  readonly companyId: number;
  readonly kind: LinkRow['kind'];
  readonly name: string;
  readonly logIn: string;
  readonly role: readonly Permission[];
  /** Who makes it; the machine's owner where nobody is logged in. */
  readonly by: number | null;
}

const hashOf = (token: string): Buffer => createHash('sha256').update(`link ${token}`).digest();

/** Makes a one-time link; one of the same kind for the same name in the same company counts no longer. */
export async function makeLink(database: Knex, made: LinkFor): Promise<LinkView> {
  const token = randomBytes(32).toString('base64url');
  const expiresAt = new Date(Date.now() + linkHours * 60 * 60 * 1000);
  // Two that are made at once: the later takes the earlier back.
  await database.raw('select pg_advisory_xact_lock(hashtextextended(?, 0))', [
    `link ${made.companyId} ${made.kind} ${made.logIn.toLowerCase()}`,
  ]);
  await database('link')
    .where({ company_id: made.companyId, kind: made.kind, used_at: null, taken_back_at: null })
    .whereRaw('lower(log_in) = lower(?)', made.logIn)
    .update({ taken_back_at: new Date() });
  await database('link').insert({
    company_id: made.companyId,
    kind: made.kind,
    token_hash: hashOf(token),
    log_in: made.logIn,
    name: made.name,
    role: [...made.role],
    made_by: made.by,
    expires_at: expiresAt,
  });
  return { token, expiresAt: expiresAt.toISOString() };
}

/** A link that still holds. Throws {@link Refusal} 404 or 410, saying why it does not. */
export async function heldLink(database: Knex, token: string): Promise<LinkRow> {
  const row = await database('link')
    .where({ token_hash: hashOf(token) })
    .first();
  if (!row) throw new Refusal(404, 'no-link', 'This link leads nowhere. Ask for it once more.');
  const gone = (why: string): Refusal =>
    new Refusal(410, 'link-gone', `${why} Ask an administrator for a new one.`);
  if (row.used_at !== null) throw gone('This link was used, and holds once.');
  if (row.taken_back_at !== null) throw gone('This link was taken back.');
  if (row.expires_at.getTime() < Date.now())
    throw gone(`This link held for ${linkHours} hours, which are over.`);
  return row;
}

/** Uses a link up, once however many try. Throws {@link Refusal} as {@link heldLink} does. */
export async function takeLink(database: Knex, token: string): Promise<LinkRow> {
  const used = await database('link')
    .where({ token_hash: hashOf(token), used_at: null, taken_back_at: null })
    .where('expires_at', '>', new Date())
    .update({ used_at: new Date() })
    .returning('*');
  return used[0] ?? heldLink(database, token);
}

/** What a link leads to, for who holds it. */
export async function targetOf(database: Knex, row: LinkRow): Promise<LinkTarget> {
  const company = await database('company').where({ id: row.company_id }).first('name');
  const known = await database('person').whereRaw('lower(log_in) = lower(?)', row.log_in).first('id');
  return {
    kind: row.kind,
    company: company?.name ?? '',
    name: row.name,
    logIn: row.log_in,
    role: [...row.role],
    known: known !== undefined,
  };
}
