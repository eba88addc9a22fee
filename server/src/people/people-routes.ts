import { Router } from 'express';
import type { Knex } from 'knex';
import { endpoints, type MemberView, type Permission } from '@coffer/contract';
import { audit } from '../audit/audit.ts';
import { faultyInput, Refusal } from '../http/refusal.ts';
import { serve, type Person } from '../http/route.ts';
import { passwordTurns } from '../http/turns.ts';
import { enter, type SignIn } from '../session/log-in.ts';
import { endSessions } from '../session/sessions.ts';
import { personViewOf } from '../session/who-calls.ts';
import { mayReset, refuseWithoutRight, takeBackLinksOf } from './link-rights.ts';
import { heldLink, makeLink, targetOf } from './links.ts';
import { peopleEvents } from './people-events.ts';
import { memberOf, membersOf, openLinks } from './people-store.ts';
import { passwordFor, useLink } from './use-link.ts';

/** The people of a company, and the links that bring them. */
export function peopleRoutes(signIn: SignIn): Router {
  const router = Router();
  const { database } = signIn;
  serve(router, database, endpoints.people, async ({ person: { companyId }, database: on }) => {
    const company = await on('company').where({ id: companyId }).first('second_factor_required');
    return {
      people: await membersOf(on, companyId),
      invitations: await openLinks(on, companyId),
      secondFactorRequired: company?.second_factor_required ?? false,
      events: await peopleEvents(on, companyId),
    };
  });
  serve(router, database, endpoints.invite, async ({ body, person, database: on }) => {
    const same = ({ logIn }: { readonly logIn: string }): boolean =>
      logIn.toLowerCase() === body.logIn.toLowerCase();
    if ((await membersOf(on, person.companyId)).some(same)) {
      throw faultyInput([{ key: 'logIn', message: 'Somebody of the company has this log-in name already.' }]);
    }
    const { companyId, id: by } = person;
    const link = await makeLink(on, { ...body, companyId, kind: 'invitation', by });
    await audit(on, person, 'invited', [
      { subject: body.logIn, detail: { role: body.role, name: body.name } },
    ]);
    return link;
  });
  serve(router, database, endpoints.takeBackInvitation, async ({ params, person, database: on }) => {
    const [row] = await on('link')
      .where({ id: params.invitation, company_id: person.companyId, used_at: null, taken_back_at: null })
      .update({ taken_back_at: new Date() })
      .returning('log_in');
    if (!row) throw new Refusal(404, 'no-link', 'This link was used or taken back already.');
    await audit(on, person, 'invitation-taken-back', [{ subject: row.log_in, detail: {} }]);
    return {};
  });
  serve(router, database, endpoints.changeMember, async ({ params, body, person, database: on }) => {
    const before = await memberOf(on, person.companyId, params.person);
    await changeMember(on, person, before, body);
    return {};
  });
  serve(router, database, endpoints.newPasswordLink, async ({ params, person, database: on }) => {
    const member = await memberOf(on, person.companyId, params.person);
    if (!(await mayReset(on, person.id, member.id))) throw notTheirs(member);
    const { name, logIn, role } = member;
    const { companyId, id: by } = person;
    const link = await makeLink(on, { companyId, kind: 'new-password', name, logIn, role, by });
    await audit(on, person, 'new-password-link', [{ subject: logIn, detail: {} }]);
    return link;
  });
  serve(router, database, endpoints.endMemberSessions, async ({ params, person, database: on }) => {
    const member = await memberOf(on, person.companyId, params.person);
    const ended = await endSessions(on, member.id, () => true);
    await audit(on, person, 'sessions-ended-for', [{ subject: member.logIn, detail: { ended } }]);
    return { ended };
  });
  serve(router, database, endpoints.requireFactor, async ({ body, visitor, person, database: on }) => {
    if (body.required && !visitor.hasSecondFactor) {
      throw new Refusal(
        409,
        'second-factor-needed',
        'Set up a second factor of your own first: you would be shut out.',
      );
    }
    await on('company').where({ id: person.companyId }).update({ second_factor_required: body.required });
    await audit(on, person, 'second-factor-required', [{ subject: '', detail: body }]);
    return {};
  });
  serve(router, database, endpoints.seeLink, async ({ body }) => {
    const link = await heldLink(database, body.token);
    await refuseWithoutRight(database, link);
    return targetOf(database, link);
  });
  serve(router, database, endpoints.useLink, async ({ body, request }) => {
    const hash = await passwordTurns.ofStrangers.take(() => passwordFor(database, body.token, body.password));
    const id = await database.transaction((on) => useLink(on, body.token, hash, request.visitor));
    return { person: personViewOf(await enter(signIn, request, id, 'log-in', { link: true })) };
  });
  return router;
}

const sameRole = (one: readonly Permission[], other: readonly Permission[]): boolean =>
  one.length === other.length && one.every((each) => other.includes(each));

async function changeMember(
  database: Knex,
  by: Person,
  before: MemberView,
  { role, suspended }: { readonly role: readonly Permission[]; readonly suspended: boolean },
): Promise<void> {
  const administers = (of: readonly Permission[], away: boolean): boolean =>
    of.includes('administer') && !away;
  if (administers(before.role, before.suspended) && !administers(role, suspended)) {
    const others = (await membersOf(database, by.companyId)).filter(
      (each) => each.id !== before.id && administers(each.role, each.suspended),
    );
    if (others.length === 0) {
      throw new Refusal(
        409,
        'last-administrator',
        `${before.name} is the only administrator. Make somebody else one first.`,
      );
    }
  }
  await database('member')
    .where({ company_id: by.companyId, person_id: before.id })
    .update({
      role: [...role],
      ...(suspended !== before.suspended && { suspended_at: suspended ? new Date() : null }),
    });
  const about = (detail: object): { subject: string; detail: object }[] => [
    { subject: before.logIn, detail },
  ];
  if (!sameRole(role, before.role)) {
    await audit(database, by, 'role-changed', about({ role, before: before.role }));
  }
  if (suspended !== before.suspended) {
    await audit(database, by, suspended ? 'suspended' : 'readmitted', about({}));
  }
  if (administers(role, suspended)) return;
  const takenBack = await takeBackLinksOf(database, before.id, by.companyId);
  await audit(
    database,
    by,
    'invitation-taken-back',
    takenBack.map((subject) => ({ subject, detail: {} })),
  );
}

function notTheirs({ name, logIn }: MemberView): Refusal {
  return new Refusal(
    403,
    'not-allowed',
    `${name} is of another company too, which you do not administer. Who keeps the machine can make the link: ./coffer new-password ${logIn}`,
  );
}
