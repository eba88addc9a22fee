import { addressOf, endpoints, permissions, type Permission } from '@coffer/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { TestServer, type Caller } from '../testing/test-server.ts';

let server: TestServer;
let caller: Caller;
beforeAll(async () => {
  server = await TestServer.start();
  caller = await server.as('tobiah');
});
afterAll(() => server.stop());

/** Every set of permissions: reading alone, each by itself, and all their mixtures. */
const roles = Array.from({ length: 2 ** permissions.length }, (_, mask) =>
  permissions.filter((__, at) => (mask >> at) % 2 === 1),
);

/** What each permission is for, as the guide for administrators has it; everything else may be read by everybody. */
const allowed: Readonly<Record<string, readonly Permission[]>> = {
  ...Object.fromEntries(
    ['createInstrument', 'changeInstrument', 'withdrawInstrument', 'recordPayments', 'takeBackPayments']
      .concat(['chooseAccruals', 'lock', 'handOver', 'adoptScenario', 'keepOwnAccounts'])
      .concat(['takeOnMany', 'takenOnSoFar', 'lookAtFixings', 'keepFixings', 'fetchFixings'])
      .concat(['keepPaper', 'takePaperAway', 'takeClosedDays'])
      .map((name) => [name, ['prepare']]),
  ),
  ...Object.fromEntries(
    ['keepScenario', 'changeScenario', 'dropScenario', 'commentMonth'].map((name) => [
      name,
      ['prepare', 'review'],
    ]),
  ),
  approve: ['review'],
  returnMonth: ['review'],
  keepAccounts: ['prepare', 'administer'],
  keepLedger: ['prepare', 'administer'],
  ...Object.fromEntries(
    [
      'people',
      'invite',
      'takeBackInvitation',
      'changeMember',
      'newPasswordLink',
      'endMemberSessions',
      'requireFactor',
      'changeSettings',
    ].map((name) => [name, ['administer']]),
  ),
};

/** Nothing of this name, month or shape is there: who may call is refused for that, and for nothing else. */
const nowhere = {
  id: crypto.randomUUID(),
  endsOn: '2001-01-31',
  person: '999999',
  invitation: '999999',
  session: 'none',
  key: crypto.randomUUID(),
  paper: crypto.randomUUID(),
};
const bodyOf = (method: string): object | undefined => (method === 'get' ? undefined : { nothing: true });

describe('every call, by every role', () => {
  it.each(roles.map((role) => [role.join(' and ') || 'reading alone', role] as const))(
    '%s',
    async (_, role) => {
      await server.database.raw(
        `update member set role = ?::text[] where company_id = 1 and person_id = (select id from person where log_in = 'tobiah')`,
        [[...role]],
      );
      const open: string[] = [];
      const meant: string[] = [];
      for (const [name, { method, path, access }] of Object.entries(endpoints)) {
        if (['anyone', 'person', 'administrator'].includes(String(access))) continue;
        const needs = allowed[name];
        if (!needs || needs.some((each) => role.includes(each))) meant.push(name);
        const answer = await caller.call(method.toUpperCase(), addressOf(path, nowhere), bodyOf(method));
        if (answer.body.error?.code !== 'not-allowed') open.push(name);
        else expect([name, answer.status]).toEqual([name, 403]);
      }
      expect(open).toEqual(meant);
    },
  );

  it('is refused to who is not logged in', async () => {
    const visitor = server.caller();
    await visitor.call('GET', '/api/session');
    for (const [name, { method, path, access }] of Object.entries(endpoints)) {
      if (access === 'anyone') continue;
      const answer = await visitor.call(method.toUpperCase(), addressOf(path, nowhere), bodyOf(method));
      expect([name, answer.status]).toEqual([name, 401]);
    }
  });
});
