import { createHash, timingSafeEqual } from 'node:crypto';
import { Router } from 'express';
import { endpoints } from '@coffer/contract';
import { makeCompany } from '../company/make-company.ts';
import { Refusal } from '../http/refusal.ts';
import { serve } from '../http/route.ts';
import { passwordTurns } from '../http/turns.ts';
import { addPerson } from '../people/people-store.ts';
import { enter, type SignIn } from '../session/log-in.ts';
import { hashPassword, refuseCommon } from '../session/passwords.ts';
import { countAttempt } from '../session/throttle.ts';
import { personViewOf } from '../session/who-calls.ts';

/**
 * The first company of an empty installation and its first administrator, for who has the one-time code that the
 * start printed. The code is used up with the first company.
 *
 * @param code of this start; without one nothing can be set up here
 */
export function setUpRoutes(signIn: SignIn, code: string | undefined): Router {
  const router = Router();
  const { database } = signIn;
  const digest = (text: string): Buffer => createHash('sha256').update(text).digest();
  const judge = async (typed: string, address: string): Promise<void> => {
    if (await database('company').first('id')) {
      throw new Refusal(
        409,
        'set-up',
        'This installation is set up; its code is used up. Log in, or ask an administrator for an invitation.',
      );
    }
    const attempt = await countAttempt(database, 'set-up', address, undefined);
    if (code === undefined || !timingSafeEqual(digest(typed), digest(code))) {
      const message = 'This is not the code of this installation. The start command prints it.';
      throw new Refusal(401, 'wrong-code', message, [{ key: 'code', message }]);
    }
    await attempt.succeed();
  };
  serve(router, database, endpoints.tryCode, ({ body, request }) =>
    passwordTurns.ofStrangers.take(async () => {
      await judge(body.code, request.ip ?? '');
      return {};
    }),
  );
  serve(router, database, endpoints.setUp, async ({ body: { code: typed, company, person }, request }) => {
    const passwordHash = await passwordTurns.ofStrangers.take(async () => {
      await judge(typed, request.ip ?? '');
      refuseCommon('person.password', person.password, [person.name, person.logIn, company.name]);
      return hashPassword(person.password);
    });
    const id = await database.transaction(async (on) => {
      // One set-up alone, were two to come with the code at once.
      await on.raw(`select pg_advisory_xact_lock(hashtext('set-up'))`);
      if (await on('company').first('id')) {
        throw new Refusal(409, 'set-up', 'This installation was set up meanwhile. Log in.');
      }
      const made = await addPerson(on, { ...person, passwordHash }, 'person.logIn');
      await makeCompany(on, made, company, 'company.name');
      return made;
    });
    return { person: personViewOf(await enter(signIn, request, id, 'log-in', { setUp: true })) };
  });
  return router;
}
