import type { Knex } from 'knex';
import { audit } from '../audit/audit.ts';
import type { LinkRow } from '../database/tables.ts';
import { faultyInput, Refusal } from '../http/refusal.ts';
import { hashPassword, refuseCommon } from '../session/passwords.ts';
import { dropFactor } from '../session/second-factor.ts';
import { endSessions } from '../session/sessions.ts';
import type { Visitor } from '../session/who-calls.ts';
import { takeLink, targetOf } from './links.ts';
import { addPerson } from './people-store.ts';

/**
 * Takes a one-time link up, in a transaction: who is new chooses a password and comes to the company; who is in the
 * installation already comes logged in; a link for a new password ends all sessions and the second factor. Gives the
 * id of the person. Throws {@link Refusal} and leaves the link as it was.
 */
export async function useLink(
  database: Knex,
  token: string,
  password: string | undefined,
  visitor: Visitor | undefined,
): Promise<number> {
  const link = await takeLink(database, token);
  const { company } = await targetOf(database, link);
  const person = await database('person').whereRaw('lower(log_in) = lower(?)', link.log_in).first();
  if (link.kind === 'new-password') {
    if (!person) throw new Refusal(404, 'no-person', 'There is no such person any more.');
    await chooseAnew(database, person.id, link, chosen(password, link, company));
    return person.id;
  }
  if (person && person.id !== visitor?.id) {
    throw new Refusal(
      401,
      'log-in-first',
      `${link.log_in} is known here already. Log in as ${link.log_in}, then follow the link once more.`,
    );
  }
  const logIn = link.log_in;
  const id =
    person?.id ??
    (await addPerson(
      database,
      { name: link.name, logIn, password: chosen(password, link, company) },
      'password',
    ));
  await join(database, id, link);
  return id;
}

function chosen(password: string | undefined, { name, log_in: logIn }: LinkRow, company: string): string {
  if (password === undefined) throw faultyInput([{ key: 'password', message: 'Choose a password.' }]);
  refuseCommon('password', password, [name, logIn, company]);
  return password;
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

async function chooseAnew(database: Knex, id: number, link: LinkRow, password: string): Promise<void> {
  await database('person')
    .where({ id })
    .update({ password_hash: await hashPassword(password), password_since: new Date() });
  await dropFactor(database, id);
  const ended = await endSessions(database, id, () => true);
  await audit(database, { companyId: null, id }, 'password-chosen-anew', [
    { subject: link.log_in, detail: { ended } },
  ]);
}
