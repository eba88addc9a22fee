import * as v from 'valibot';
import { linkHours } from '@coffer/contract';
import { audit } from '../audit/audit.ts';
import { connect } from '../database/connect.ts';
import { notOfForm } from '../database/migrate.ts';
import { makeLink } from './links.ts';

const environment = v.object({
  COFFER_DATABASE: v.pipe(v.string(), v.url()),
  COFFER_ADDRESS: v.pipe(v.string(), v.url()),
});

const { COFFER_DATABASE, COFFER_ADDRESS } = v.parse(environment, process.env);
const logIn = process.argv[2] ?? '';
const database = connect(COFFER_DATABASE);
try {
  const unfit = await notOfForm(database);
  if (unfit !== undefined) throw new Error(unfit);
  const token = await database.transaction(async (on) => {
    const person = await on('person').whereRaw('lower(log_in) = lower(?)', logIn).first();
    const member = person && (await on('member').where({ person_id: person.id }).first());
    if (!person || !member) return undefined;
    const { name, log_in } = person;
    const { company_id: companyId, role } = member;
    const link = await makeLink(on, { companyId, kind: 'new-password', name, logIn: log_in, role, by: null });
    await audit(on, { companyId: null, id: null }, 'new-password-link', [{ subject: log_in, detail: {} }]);
    return link.token;
  });
  if (token === undefined) {
    process.stderr.write(`There is nobody with the log-in name ${logIn}.\n`);
    process.exitCode = 2;
  } else {
    process.stdout.write(`${COFFER_ADDRESS}/link#${token}\nThe link holds once, for ${linkHours} hours.\n`);
  }
} finally {
  await database.destroy();
}
