import type { Knex } from 'knex';
import { audit } from '../audit/audit.ts';
import type { LinkRow, PersonRow } from '../database/tables.ts';
import { faultyInput, Refusal } from '../http/refusal.ts';
import { hashPassword, refuseCommon } from '../session/passwords.ts';
import { dropFactor } from '../session/second-factor.ts';
import { endSessions } from '../session/sessions.ts';
import type { Visitor } from '../session/who-calls.ts';
import { refuseWithoutRight } from './link-rights.ts';
import { heldLink, takeLink, targetOf } from './links.ts';
import { addPerson } from './people-store.ts';

/**
 * The hash of the password that a link asks for, before it is taken up; nothing where it asks for none, because who comes
 * is here already. Throws {@link Refusal} 404, 410 or 422.
 */
export async function passwordFor(
  database: Knex,
  token: string,
  password: string | undefined,
): Promise<string | undefined> {
  const link = await heldLink(database, token);
  await refuseWithoutRight(database, link);
  if (link.kind === 'invitation' && (await personOf(database, link))) return undefined;
  if (password === undefined) throw faultyInput([{ key: 'password', message: 'Choose a password.' }]);
  const { company } = await targetOf(database, link);
  refuseCommon('password', password, [link.name, link.log_in, company]);
  return hashPassword(password);
}

/**
 * Takes a one-time link up, in a transaction: who is new chooses a password and comes to the company; who is in the
 * installation already comes logged in; a link for a new password ends all sessions and the second factor. Whether it
 * may still do so is judged now, not when it was made. Gives the id of the person. Throws {@link Refusal} and leaves the
 * link as it was.
 *
 * @param passwordHash as {@link passwordFor} gave it
 */
export async function useLink(
  database: Knex,
  token: string,
  passwordHash: string | undefined,
  visitor: Visitor | undefined,
): Promise<number> {
  const link = await takeLink(database, token);
  await refuseWithoutRight(database, link);
  const person = await personOf(database, link);
  if (link.kind === 'new-password') {
    if (!person) throw new Refusal(404, 'no-person', 'There is no such person any more.');
    await chooseAnew(database, person.id, link, chosen(passwordHash));
    return person.id;
  }
  if (person && person.id !== visitor?.id) {
    throw new Refusal(
      401,
      'log-in-first',
      `${link.log_in} is known here already. Log in as ${link.log_in}, then follow the link once more.`,
    );
  }
  const { name, log_in: logIn } = link;
  const id =
    person?.id ??
    (await addPerson(database, { name, logIn, passwordHash: chosen(passwordHash) }, 'password'));
  await join(database, id, link);
  return id;
}

function personOf(database: Knex, { log_in }: LinkRow): Promise<PersonRow | undefined> {
  return database('person').whereRaw('lower(log_in) = lower(?)', log_in).first();
}

function chosen(passwordHash: string | undefined): string {
  if (passwordHash !== undefined) return passwordHash;
  throw faultyInput([{ key: 'password', message: 'Choose a password.' }]);
}

async function join(database: Knex, id: number, { company_id, role, log_in }: LinkRow): Promise<void> {
  const joined = await database('member')
    .insert({ company_id, person_id: id, role })
    .onConflict(['company_id', 'person_id'])
    .ignore()
    .returning('person_id');
  if (joined.length === 0) {
    throw new Refusal(409, 'member', 'You are of this company already; nothing was changed.');
  }
  await audit(database, { companyId: company_id, id }, 'joined', [{ subject: log_in, detail: { role } }]);
}

async function chooseAnew(database: Knex, id: number, link: LinkRow, passwordHash: string): Promise<void> {
  await database('person').where({ id }).update({ password_hash: passwordHash, password_since: new Date() });
  await dropFactor(database, id);
  const ended = await endSessions(database, id, () => true);
  await audit(database, { companyId: null, id }, 'password-chosen-anew', [
    { subject: link.log_in, detail: { ended } },
  ]);
}
