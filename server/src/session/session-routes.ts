import { Router, type Request, type Response } from 'express';
import type { Knex } from 'knex';
import { endpoints, type PersonView } from '@coffer/contract';
import { audit } from '../audit/audit.ts';
import { handOutToken } from '../http/anti-forgery.ts';
import { Refusal } from '../http/refusal.ts';
import { serve, type Person } from '../http/route.ts';
import { passwordFits } from './passwords.ts';
import { endSession, personOf, renewSession } from './sessions.ts';

const mostFailures = 10;
const waitMinutes = 15;

function view({ name, logIn, role }: Person): PersonView {
  return { name, logIn, role };
}

/** Log-in, log-out and who is logged in. */
export function sessionRoutes(database: Knex): Router {
  const router = Router();
  serve(router, database, endpoints.session, ({ request }) => {
    handOutToken(request, request.res as Response);
    return Promise.resolve({ person: request.person ? view(request.person) : null });
  });
  serve(router, database, endpoints.logIn, async ({ body, request }) => {
    const person = await checkLogIn(database, body.logIn.toLowerCase(), body.password);
    await startSession(request, person);
    await audit(database, person, 'log-in', [{ subject: person.logIn, detail: {} }]);
    return { person: view(person) };
  });
  serve(router, database, endpoints.logOut, async ({ request, person }) => {
    await endSession(request);
    await audit(database, person, 'log-out', [{ subject: person.logIn, detail: {} }]);
    return {};
  });
  return router;
}

async function startSession(request: Request, person: Person): Promise<void> {
  await renewSession(request);
  request.session.personId = person.id;
  handOutToken(request, request.res as Response);
}

/**
 * The person a log-in name and password belong to. After ten failures within a quarter of an hour a name is
 * refused whatever the password, whether or not there is such a person, so that neither can be found by trying.
 */
async function checkLogIn(database: Knex, logIn: string, password: string): Promise<Person> {
  const failures = await countAttempt(database, logIn);
  if (failures >= mostFailures) {
    throw new Refusal(
      429,
      'too-many-failures',
      `Logging in as ${logIn} has failed ${mostFailures} times. Wait ${waitMinutes} minutes and try again, or ask an administrator.`,
    );
  }
  const row = await database('person').whereRaw('lower(log_in) = ?', logIn).first();
  if (!(await passwordFits(row?.password_hash, password)) || !row) {
    const left = mostFailures - failures - 1;
    throw new Refusal(401, 'wrong-log-in', 'There is no such log-in name with this password.', [
      { key: 'password', message: left < 4 ? `Not recognised; ${left} tries are left.` : 'Not recognised.' },
    ]);
  }
  await database('log_in_failure').where({ log_in: logIn }).delete();
  return personOf(row);
}

/**
 * Counts an attempt as a failure before it is judged, one at a time for a name, so that many at once are no more than ten;
 * one that succeeds takes what was counted back. Gives how many failed before it within the quarter of an hour.
 */
async function countAttempt(database: Knex, logIn: string): Promise<number> {
  return database.transaction(async (on) => {
    await on.raw(`select pg_advisory_xact_lock(hashtext('log-in'), hashtext(?))`, [logIn]);
    const recent = await on('log_in_failure')
      .where({ log_in: logIn })
      .andWhereRaw(`at > now() - interval '${waitMinutes} minutes'`)
      .count({ many: '*' })
      .first();
    const failures = Number(recent?.['many'] ?? 0);
    if (failures < mostFailures) await on('log_in_failure').insert({ log_in: logIn });
    return failures;
  });
}
