import * as v from 'valibot';
import { newPassword } from '../password/rules.ts';
import { endpoint } from './endpoint.ts';
import { invited, linkTarget, linkView, peopleView } from './people-views.ts';
import { administering } from './permissions.ts';
import { personView, role } from './session-views.ts';

const id = v.pipe(v.string(), v.regex(/^\d{1,9}$/, 'expected a number.'), v.transform(Number));
const token = v.pipe(
  v.string(),
  v.regex(/^[\w-]{43}$/, 'expected what the link has after its #; ask for it once more.'),
);
const done = v.strictObject({});

/** The people of a company, their roles, and the one-time links that bring them. */
export const peopleEndpoints = {
  people: endpoint(
    'get',
    '/api/people',
    'The people of the company and what happened to them',
    administering,
    {
      answer: peopleView,
    },
  ),
  invite: endpoint('post', '/api/people/invitations', 'Invite somebody by a one-time link', administering, {
    body: invited,
    answer: linkView,
  }),
  takeBackInvitation: endpoint(
    'delete',
    '/api/people/invitations/:invitation',
    'Take an invitation or a link for a new password back',
    administering,
    { params: v.strictObject({ invitation: id }), answer: done },
  ),
  changeMember: endpoint(
    'put',
    '/api/people/:person',
    'Change somebody’s role, suspend or readmit them; refused for the last administrator',
    administering,
    {
      params: v.strictObject({ person: id }),
      body: v.strictObject({ role, suspended: v.boolean() }),
      answer: done,
    },
  ),
  newPasswordLink: endpoint(
    'post',
    '/api/people/:person/new-password',
    'A one-time link by which somebody chooses a new password, and gives up a lost second factor',
    administering,
    { params: v.strictObject({ person: id }), answer: linkView },
  ),
  endMemberSessions: endpoint(
    'post',
    '/api/people/:person/sessions/ended',
    'End all sessions of somebody',
    administering,
    { params: v.strictObject({ person: id }), answer: v.strictObject({ ended: v.number() }) },
  ),
  requireFactor: endpoint(
    'put',
    '/api/company/second-factor',
    'Whether the company asks everybody for a second factor',
    administering,
    { body: v.strictObject({ required: v.boolean() }), answer: done },
  ),
  seeLink: endpoint('post', '/api/links/seen', 'What a one-time link leads to', 'anyone', {
    body: v.strictObject({ token }),
    changes: false,
    answer: linkTarget,
  }),
  useLink: endpoint(
    'post',
    '/api/links/used',
    'Take a one-time link up: with the password that is chosen, or logged in as who it is for',
    'anyone',
    {
      body: v.strictObject({ token, password: v.optional(newPassword) }),
      answer: v.strictObject({ person: personView }),
    },
  ),
} as const;
