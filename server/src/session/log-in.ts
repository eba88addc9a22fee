import type { Request, Response } from 'express';
import type { Knex } from 'knex';
import { audit } from '../audit/audit.ts';
import type { PersonRow } from '../database/tables.ts';
import type { AntiForgery } from '../http/anti-forgery.ts';
import { Refusal } from '../http/refusal.ts';
import { passwordTurns } from '../http/turns.ts';
import { passwordFits } from './passwords.ts';
import type { SecondFactors } from './second-factor.ts';
import { startSession } from './sessions.ts';
import { countAttempt, firstRefusal, knownBrowser, rememberBrowser, type Attempt } from './throttle.ts';
import { visitorBy, type Visitor } from './who-calls.ts';

/** What log-in is made with. */
export interface SignIn {
  readonly database: Knex;
  readonly secret: string;
  readonly tokens: AntiForgery;
  readonly factors: SecondFactors;
}

/** What is typed to log in. */
export interface Credentials {
  readonly logIn: string;
  readonly password: string;
  readonly code?: string | undefined;
}

/** Somebody who has logged in, and what they should know of. */
export interface Entered {
  readonly visitor: Visitor;
  /** Wrong codes of the second factor since the last log-in. */
  readonly wrongCodes: number;
}

/** Judges who logs in and begins their session. Throws {@link Refusal} 401 or 429, and writes failures to the audit trail. */
export function logIn(signIn: SignIn, request: Request, typed: Credentials): Promise<Entered> {
  const browser = knownBrowser(request, signIn.secret, typed.logIn);
  const turns = browser === undefined ? passwordTurns.ofStrangers : passwordTurns.ofKnown;
  return turns.take(() => loggedIn(signIn, request, typed, browser));
}

async function loggedIn(
  signIn: SignIn,
  request: Request,
  typed: Credentials,
  browser: string | undefined,
): Promise<Entered> {
  const { database } = signIn;
  const name = typed.logIn.toLowerCase();
  const address = request.ip ?? '';
  const attempt = await countAttempt(database, name, address, browser).catch(async (error: unknown) => {
    if (error instanceof Refusal && (await firstRefusal(database, name, address)))
      await auditFailure(database, name, error.code, address);
    throw error;
  });
  try {
    const { person, wrongCodes } = await judged(signIn, attempt, name, typed);
    await attempt.succeed();
    const visitor = await enter(signIn, request, person.id, 'log-in', wrongCodes > 0 ? { wrongCodes } : {});
    if (wrongCodes > 0) await signIn.factors.forgetWrongCodes(database, person.id);
    return { visitor, wrongCodes };
  } catch (error) {
    const told = error instanceof Refusal && error.code !== 'second-factor';
    if (told) await auditFailure(database, name, error.code, address);
    throw error;
  }
}

async function judged(
  { database, factors }: SignIn,
  attempt: Attempt,
  name: string,
  { password, code }: Credentials,
): Promise<{ person: PersonRow; wrongCodes: number }> {
  let wrongCodes = 0;
  const row = await database('person').whereRaw('lower(log_in) = ?', name).first();
  if (!(await passwordFits(row?.password_hash, password)) || !row) {
    throw new Refusal(401, 'wrong-log-in', 'There is no such log-in name with this password.', [
      {
        key: 'password',
        message: attempt.left < 4 ? `Not recognised; ${attempt.left} tries are left.` : 'Not recognised.',
      },
    ]);
  }
  if (await factors.isOn(database, row.id)) {
    if (code === undefined) {
      await attempt.takeBack();
      throw new Refusal(401, 'second-factor', 'Type the code that your second factor shows now.', [
        { key: 'code', message: 'Six digits, or a recovery code.' },
      ]);
    }
    const person = { id: row.id, logIn: row.log_in };
    const fits = await factors.judge(database, person, code);
    wrongCodes = fits.wrongSince;
    if (fits.way === 'recovery') {
      const event = { subject: row.log_in, detail: {} };
      await audit(database, { companyId: null, id: row.id }, 'recovery-code-used', [event]);
    }
  }
  if ((await visitorBy(database, row.id))?.memberships.length === 0) {
    throw new Refusal(401, 'suspended', 'Your access is suspended. Ask an administrator of your company.');
  }
  return { person: row, wrongCodes };
}

/** Begins a person's session, remembers the browser, and tells of it in the audit trail. */
export async function enter(
  { database, secret, tokens }: SignIn,
  request: Request,
  personId: number,
  action: string,
  detail: object,
): Promise<Visitor> {
  const visitor = await visitorBy(database, personId);
  if (!visitor) throw new Error(`There is no person ${personId}.`);
  const response = request.res as Response;
  await startSession(request, personId);
  tokens.handOut(request, response);
  rememberBrowser(response, secret, visitor.logIn);
  await database('person').where({ id: personId }).update({ last_log_in: new Date() });
  const { browser, address } = request.session;
  await audit(database, { companyId: null, id: personId }, action, [
    { subject: visitor.logIn, detail: { browser, address, ...detail } },
  ]);
  return visitor;
}

async function auditFailure(database: Knex, name: string, why: string, address: string): Promise<void> {
  await audit(database, { companyId: null, id: null }, 'log-in-failed', [
    { subject: name, detail: { why, address } },
  ]);
}
