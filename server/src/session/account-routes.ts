import { Router, type Request } from 'express';
import type { Knex } from 'knex';
import { endpoints, type AccountView } from '@coffer/contract';
import { audit } from '../audit/audit.ts';
import { faultyInput, Refusal } from '../http/refusal.ts';
import { serve, serveAfter } from '../http/route.ts';
import { passwordTurns } from '../http/turns.ts';
import type { SignIn } from './log-in.ts';
import { hashPassword, passwordFits, refuseCommon } from './passwords.ts';
import { dropFactor } from './second-factor.ts';
import { endSessions, listSessions } from './sessions.ts';
import { countAttempt } from './throttle.ts';
import type { Visitor } from './who-calls.ts';

/** A call with which the password comes once more. */
interface PasswordCall {
  readonly visitor: Visitor;
  readonly request: Request;
  readonly body: { readonly password: string };
}

/** A person's own account: password, second factor, sessions. */
export function accountRoutes({ database, factors }: SignIn): Router {
  const router = Router();
  serve(router, database, endpoints.account, ({ visitor, request, database: on }) =>
    accountOf(on, visitor, request.sessionID),
  );
  /** What comes before a change to the account: the password once more, counted as at log-in. */
  const samePerson = ({ visitor, request, body: { password } }: PasswordCall): Promise<void> =>
    passwordTurns.ofKnown.take(() => judgeAgain(database, visitor, 'password', password, request.ip ?? ''));
  serveAfter(
    router,
    database,
    endpoints.changePassword,
    ({ body, visitor, request }) =>
      passwordTurns.ofKnown.take(async () => {
        await judgeAgain(database, visitor, 'now', body.now, request.ip ?? '');
        const companies = visitor.memberships.map(({ companyName }) => companyName);
        refuseCommon('next', body.next, [visitor.name, visitor.logIn, ...companies]);
        return hashPassword(body.next);
      }),
    async ({ visitor, request, database: on }, password_hash) => {
      await on('person').where({ id: visitor.id }).update({ password_hash, password_since: new Date() });
      const ended = await endSessions(on, visitor.id, ({ id }) => id !== request.sessionID);
      await tell(on, visitor, 'password-changed', { ended });
      return {};
    },
  );
  serveAfter(router, database, endpoints.beginFactor, samePerson, ({ visitor, database: on }) =>
    factors.begin(on, visitor),
  );
  serve(router, database, endpoints.confirmFactor, async ({ body, visitor, request, database: on }) => {
    const recoveryCodes = await factors.confirm(on, visitor, body.code);
    const ended = await endSessions(on, visitor.id, ({ id }) => id !== request.sessionID);
    await tell(on, visitor, 'second-factor-on', { ended });
    return { recoveryCodes };
  });
  serveAfter(
    router,
    database,
    endpoints.removeFactor,
    ({ body, visitor, request }) =>
      passwordTurns.ofKnown.take(async () => {
        await judgeAgain(database, visitor, 'password', body.password, request.ip ?? '');
        // Who has found a browser open and knows the password lacks what the factor is for.
        if (await factors.isOn(database, visitor.id)) await factors.judge(database, visitor, body.code);
      }),
    async ({ visitor, database: on }) => {
      const required = requiredBy(visitor);
      if (required.length > 0) {
        throw new Refusal(
          409,
          'second-factor-required',
          `${required.join(' and ')} asks everybody for a second factor; it cannot be turned off.`,
        );
      }
      await dropFactor(on, visitor.id);
      await tell(on, visitor, 'second-factor-off', {});
      return {};
    },
  );
  serveAfter(
    router,
    database,
    endpoints.endSessions,
    samePerson,
    async ({ body, visitor, request, database: on }) => {
      const ended = await endSessions(on, visitor.id, ({ handle, id }) =>
        body.session === undefined ? id !== request.sessionID : handle === body.session,
      );
      if (body.session !== undefined && ended === 0) {
        throw new Refusal(404, 'no-session', 'This session has ended already.');
      }
      if (ended > 0) await tell(on, visitor, 'sessions-ended', { ended });
      return { ended };
    },
  );
  return router;
}

function requiredBy({ memberships }: Visitor): string[] {
  return memberships.filter((each) => each.secondFactorRequired).map(({ companyName }) => companyName);
}

/** Asks once more for the password, so that who finds an open browser changes nothing lasting. Throws {@link Refusal}. */
async function judgeAgain(
  database: Knex,
  { id, logIn }: Visitor,
  key: string,
  password: string,
  address: string,
): Promise<void> {
  const attempt = await countAttempt(database, logIn.toLowerCase(), address, `own account ${id}`);
  const row = await database('person').where({ id }).first();
  if (!(await passwordFits(row?.password_hash, password))) {
    throw faultyInput([{ key, message: 'This is not your password.' }]);
  }
  await attempt.succeed();
}

async function tell(database: Knex, { id, logIn }: Visitor, action: string, detail: object): Promise<void> {
  await audit(database, { companyId: null, id }, action, [{ subject: logIn, detail }]);
}

async function accountOf(database: Knex, visitor: Visitor, current: string): Promise<AccountView> {
  const row = await database('person').where({ id: visitor.id }).first();
  const factor = await database('second_factor')
    .where({ person_id: visitor.id })
    .whereNotNull('since')
    .first();
  const codes = await database('recovery_code')
    .where({ person_id: visitor.id, used_at: null })
    .count({ many: '*' })
    .first();
  return {
    name: visitor.name,
    logIn: visitor.logIn,
    passwordSince: (row?.password_since ?? new Date()).toISOString(),
    secondFactorSince: factor?.since?.toISOString() ?? null,
    recoveryCodesLeft: Number(codes?.['many'] ?? 0),
    requiredBy: requiredBy(visitor),
    sessions: await listSessions(database, visitor.id, current),
  };
}
