import * as v from 'valibot';
import { newPassword, triedPassword } from '../password/rules.ts';
import { endpoint } from './endpoint.ts';
import { accountView, logInName, personView, visitView } from './session-views.ts';
import { newCompany, newPerson, oneTimeCode } from './set-up-views.ts';

/** Six digits of a time code, or a recovery code; spaces do not count. */
const factorCode = v.pipe(
  v.string(),
  v.transform((text) => text.replaceAll(/[\s-]/g, '').toUpperCase()),
  v.regex(/^(\d{6}|[A-Z2-7]{24})$/, 'expected the six digits of the code, or a recovery code.'),
);
const done = v.strictObject({});
const person = v.strictObject({ person: personView });

/** First start, log-in, and a person's own account. */
export const sessionEndpoints = {
  session: endpoint('get', '/api/session', 'Who is logged in; hands out the anti-forgery cookie', 'anyone', {
    answer: visitView,
  }),
  logIn: endpoint(
    'post',
    '/api/session',
    'Log in; with the code of the second factor where the person has one',
    'anyone',
    {
      body: v.strictObject({ logIn: logInName, password: triedPassword, code: v.optional(factorCode) }),
      answer: v.strictObject({
        person: personView,
        /** Wrong codes of the second factor that were typed since the last log-in. */
        wrongCodes: v.number(),
      }),
    },
  ),
  logOut: endpoint('delete', '/api/session', 'Log out', 'person', { answer: done }),
  tryCode: endpoint(
    'post',
    '/api/set-up/code',
    'Whether the one-time code of an empty installation fits',
    'anyone',
    { body: v.strictObject({ code: oneTimeCode }), answer: done },
  ),
  setUp: endpoint(
    'post',
    '/api/set-up',
    'Make the first company of an empty installation and its first administrator, who is then logged in',
    'anyone',
    { body: v.strictObject({ code: oneTimeCode, company: newCompany, person: newPerson }), answer: person },
  ),
  makeCompany: endpoint(
    'post',
    '/api/companies',
    'Make another company, administered by who makes it; for administrators of any',
    'administrator',
    { body: newCompany, answer: person },
  ),
  account: endpoint('get', '/api/account', 'One’s own account and where it is logged in', 'person', {
    answer: accountView,
  }),
  changePassword: endpoint(
    'put',
    '/api/account/password',
    'Change one’s own password; ends all other sessions',
    'person',
    { body: v.strictObject({ now: triedPassword, next: newPassword }), answer: done },
  ),
  beginFactor: endpoint(
    'post',
    '/api/account/second-factor',
    'A fresh secret for time codes, which counts once a code of it was given',
    'person',
    {
      body: v.strictObject({ password: triedPassword }),
      answer: v.strictObject({ secret: v.string(), address: v.string() }),
    },
  ),
  confirmFactor: endpoint(
    'put',
    '/api/account/second-factor',
    'Turn the second factor on by a code of it; ends all other sessions, and gives the recovery codes, which are never shown again',
    'person',
    {
      body: v.strictObject({ code: factorCode }),
      answer: v.strictObject({ recoveryCodes: v.array(v.string()) }),
    },
  ),
  removeFactor: endpoint(
    'post',
    '/api/account/second-factor/removal',
    'Turn the second factor off, with a code of it or of recovery; refused where a company requires it',
    'person',
    { body: v.strictObject({ password: triedPassword, code: factorCode }), answer: done },
  ),
  endSessions: endpoint(
    'post',
    '/api/account/sessions/ended',
    'End one of one’s own sessions, or all but this one, with the password typed anew',
    'person',
    {
      body: v.strictObject({ password: triedPassword, session: v.optional(v.string()) }),
      answer: v.strictObject({ ended: v.number() }),
    },
  ),
} as const;
