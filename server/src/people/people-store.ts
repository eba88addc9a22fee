import type { Knex } from 'knex';
import type { InvitationView, MemberView, NewPerson } from '@coffer/contract';
import type { LinkRow, MemberRow, PersonRow, SecondFactorRow } from '../database/tables.ts';
import { faultyInput, Refusal } from '../http/refusal.ts';

/** Adds a person, of no company yet; gives their id. Throws {@link Refusal} 422 where the log-in name is taken. */
export async function addPerson(
  database: Knex,
  { name, logIn, passwordHash }: Omit<NewPerson, 'password'> & { readonly passwordHash: string },
  key: string,
): Promise<number> {
  const taken = await database('person').whereRaw('lower(log_in) = lower(?)', logIn).first('id');
  if (taken) throw faultyInput([{ key, message: 'Somebody here has this log-in name already.' }]);
  const [made] = await database('person')
    .insert({ name, log_in: logIn, password_hash: passwordHash, password_since: new Date() })
    .returning('id');
  if (!made) throw new Error('The person was not added.');
  return made.id;
}

type Joined = Pick<PersonRow, 'id' | 'name' | 'log_in' | 'last_log_in'> &
  Pick<MemberRow, 'role' | 'suspended_at'> &
  Pick<SecondFactorRow, 'since'>;

/** The people of a company, by name. */
export async function membersOf(database: Knex, companyId: number): Promise<MemberView[]> {
  const rows = await database('member')
    .join('person', 'person.id', 'member.person_id')
    .leftJoin('second_factor', 'second_factor.person_id', 'person.id')
    .where({ company_id: companyId })
    .orderByRaw('lower(person.name)')
    .select<Joined[]>(
      'person.id',
      'person.name',
      'person.log_in',
      'member.role',
      'member.suspended_at',
      'person.last_log_in',
      'second_factor.since',
    );
  return rows.map((row) => ({
    id: row.id,
    name: row.name,
    logIn: row.log_in,
    role: [...row.role],
    suspended: row.suspended_at !== null,
    secondFactor: row.since !== null,
    lastLogIn: row.last_log_in?.toISOString() ?? null,
  }));
}

/** Somebody of a company. Throws {@link Refusal} 404 where nobody has the id there. */
export async function memberOf(database: Knex, companyId: number, personId: number): Promise<MemberView> {
  const found = (await membersOf(database, companyId)).find(({ id }) => id === personId);
  if (!found) throw new Refusal(404, 'no-person', 'There is nobody of this company with this id.');
  return found;
}

/** Links of a company that were not taken up, the newest first. */
export async function openLinks(database: Knex, companyId: number): Promise<InvitationView[]> {
  const rows = await database('link')
    .leftJoin('person', 'person.id', 'link.made_by')
    .where({ company_id: companyId, used_at: null, taken_back_at: null })
    .orderBy('link.id', 'desc')
    .select<(LinkRow & { readonly by: string | null })[]>(
      'link.id',
      'link.name',
      'link.log_in',
      'link.role',
      'link.kind',
      'link.expires_at',
      'person.name as by',
    );
  return rows.map((row) => ({
    id: row.id,
    name: row.name,
    logIn: row.log_in,
    role: [...row.role],
    kind: row.kind,
    by: row.by ?? 'the machine’s owner',
    expiresAt: row.expires_at.toISOString(),
    expired: row.expires_at.getTime() < Date.now(),
  }));
}
