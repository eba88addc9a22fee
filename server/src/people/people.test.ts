import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { passwords, TestServer, type Answer, type Caller } from '../testing/test-server.ts';

let server: TestServer;
let admin: Caller;
beforeAll(async () => {
  server = await TestServer.start();
  admin = await server.as('sunniva');
});
afterAll(() => server.stop());

const password = 'otter lantern gravel pine';
const invite = (logIn: string, role: string[], by = admin): Promise<Answer> =>
  by.call('POST', '/api/people/invitations', { name: `${logIn} of Ostrel`, logIn, role });
const use = async (token: string, more: object = { password }, by = server.caller()): Promise<Answer> => {
  await by.call('GET', '/api/session');
  return by.call('POST', '/api/links/used', { token, ...more });
};
interface Member {
  readonly id: number;
  readonly logIn: string;
  readonly role: string[];
  readonly suspended: boolean;
}
const member = async (logIn: string): Promise<Member> => {
  const { people } = (await admin.call('GET', '/api/people')).body;
  return people.find((each: Member) => each.logIn === logIn);
};
const change = async (logIn: string, role: string[], suspended = false): Promise<Answer> => {
  const { id } = await member(logIn);
  return admin.call('PUT', `/api/people/${id}`, { role, suspended });
};

describe('an invitation', () => {
  it('brings somebody by a link that holds once', async () => {
    const { token } = (await invite('wren', ['prepare'])).body;
    const seen = server.caller();
    await seen.call('GET', '/api/session');
    expect((await seen.call('POST', '/api/links/seen', { token })).body).toMatchObject({
      kind: 'invitation',
      company: 'Ostrel Glassworks',
      logIn: 'wren',
      role: ['prepare'],
      known: false,
    });
    // What cannot be taken leaves the link as it was.
    expect((await use(token, {})).body.error.faults[0].key).toBe('password');
    expect((await use(token, { password: 'password1234' })).status).toBe(422);
    const wren = server.caller();
    expect((await use(token, { password }, wren)).status).toBe(200);
    expect((await wren.call('GET', '/api/register?on=2026-10-31')).status).toBe(200);
    expect((await member('wren')).role).toEqual(['prepare']);
    const twice = await use(token);
    expect([twice.status, twice.body.error.message]).toEqual([410, expect.stringMatching(/was used/)]);
    expect((await invite('WREN', [])).body.error.faults[0].message).toMatch(/has this log-in name already/);
    // Only the hash of the token is kept.
    const { rows } = await server.database.raw('select * from link');
    expect(JSON.stringify(rows)).not.toContain(token);
  });

  it('is taken by one of several who use it at once', async () => {
    const { token } = (await invite('twins', [])).body;
    const answers = await Promise.all([use(token), use(token), use(token)]);
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 410, 410]);
  });

  it('is over after 72 hours, when it is taken back, and when a newer one is made', async () => {
    const why = async (token: string): Promise<[number, string]> => {
      const { status, body } = await use(token);
      return [status, body.error.message];
    };
    const late = (await invite('late', [])).body;
    expect(new Date(late.expiresAt).getTime() - Date.now()).toBeGreaterThan(71.9 * 3_600_000);
    await server.database.raw(
      `update link set expires_at = now() - interval '1 second' where log_in = 'late'`,
    );
    expect(await why(late.token)).toEqual([410, expect.stringMatching(/held for 72 hours/)]);
    const { token } = (await invite('gone', [])).body;
    const { invitations } = (await admin.call('GET', '/api/people')).body;
    const { id } = invitations.find(({ logIn }: { logIn: string }) => logIn === 'gone');
    expect((await admin.call('DELETE', `/api/people/invitations/${id}`)).status).toBe(200);
    expect(await why(token)).toEqual([410, expect.stringMatching(/taken back/)]);
    const first = (await invite('again', [])).body.token;
    await invite('again', []);
    expect((await why(first))[0]).toBe(410);
    // Of several that are made at once one holds, in either letters.
    await Promise.all(['At-once', 'at-once', 'at-once', 'AT-ONCE'].map((logIn) => invite(logIn, [])));
    const open = (await admin.call('GET', '/api/people')).body.invitations;
    expect(open.filter(({ logIn }: { logIn: string }) => /^at-once$/i.test(logIn))).toHaveLength(1);
    expect((await why('x'.repeat(43)))[0]).toBe(404);
    expect((await use('short')).status).toBe(422);
  });

  it('asks who is known in another company to log in, and joins them to this one', async () => {
    const { token } = (await invite('hale', ['review'])).body;
    expect((await use(token)).body.error.code).toBe('log-in-first');
    expect((await use(token, {}, await server.as('ilka'))).body.error.code).toBe('log-in-first');
    const hale = await server.as('hale');
    const { companies } = (await use(token, {}, hale)).body.person;
    expect(companies).toEqual([
      { id: 2, name: 'Orrin Pottery', role: ['prepare'] },
      { id: 1, name: 'Ostrel Glassworks', role: ['review'] },
    ]);
    // Of two companies, each call says which.
    expect((await hale.call('GET', '/api/company')).body.error.code).toBe('which-company');
    for (const [id, name] of [
      ['1', 'Ostrel Glassworks'],
      ['2', 'Orrin Pottery'],
    ] as const) {
      const answer = await hale.call('GET', '/api/company', undefined, { 'x-coffer-company': id });
      expect(answer.body.name).toBe(name);
    }
    const file = await hale.call('GET', '/api/journal.csv?from=2026-09-01&to=2026-09-30&company=2');
    expect(file.status).toBe(200);
    // A role counts in its company alone.
    const asked = { document: {} };
    const header = (id: string): Record<string, string> => ({ 'x-coffer-company': id });
    expect((await hale.call('POST', '/api/instruments', asked, header('1'))).status).toBe(403);
    expect((await hale.call('POST', '/api/instruments', asked, header('2'))).status).toBe(422);
  });
});

describe('a role', () => {
  it('is changed at once, and a suspension shuts out of the company', async () => {
    const bram = await server.as('bram');
    const tryToChange = (): Promise<Answer> => bram.call('POST', '/api/instruments', { document: {} });
    expect((await tryToChange()).body.error.message).toMatch(/reviews; this asks for one that prepares/);
    await change('bram', ['prepare', 'review']);
    expect((await tryToChange()).status).toBe(422);
    await change('bram', ['prepare', 'review'], true);
    expect((await bram.call('GET', '/api/company')).body.error.code).toBe('not-of-company');
    expect((await server.caller().logIn('bram', passwords.bram)).body.error.code).toBe('suspended');
    await change('bram', ['review']);
    expect((await bram.call('GET', '/api/company')).status).toBe(200);
  });

  it('of the last administrator stays, also where two give it up at once', async () => {
    for (const answer of [
      await change('sunniva', ['prepare']),
      await change('sunniva', ['administer'], true),
    ]) {
      expect(answer.body.error.code).toBe('last-administrator');
    }
    await change('tobiah', ['administer']);
    const give = (logIn: string): Promise<unknown> =>
      server.database.transaction(async (on) => {
        await on.raw(`update member set role = array[]::text[] where company_id = 1 and person_id =
          (select id from person where log_in = '${logIn}')`);
        await on.raw('select pg_sleep(0.2)');
      });
    const given = await Promise.allSettled([give('sunniva'), give('tobiah')]);
    expect(given.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    await server.database
      .raw(`update member set role = array['administer'] where company_id = 1 and person_id =
      (select id from person where log_in = 'sunniva')`);
  });
});

describe('a link for a new password', () => {
  it('ends sessions and the second factor, and is made by who administers all companies of the person', async () => {
    const { id } = await member('ilka');
    const ilka = await server.as('ilka');
    await ilka.call('POST', '/api/account/second-factor', { password: passwords.ilka });
    const { token } = (await admin.call('POST', `/api/people/${id}/new-password`)).body;
    expect((await use(token, { password: passwords.ilka })).status).toBe(422);
    expect((await use(token)).status).toBe(200);
    expect((await ilka.call('GET', '/api/company')).status).toBe(401);
    expect((await server.caller().logIn('ilka', password)).status).toBe(200);
    const hale = await member('hale');
    const refused = await admin.call('POST', `/api/people/${hale.id}/new-password`);
    expect(refused.body.error.message).toMatch(/of another company too.*\.\/coffer new-password hale/);
  });
});

// What an attack tried: a link made while somebody had the right, taken up when they have it no more.
describe('a link is judged when it is taken up', () => {
  const hand = 'copper willow ember north';
  const person = async (logIn: string, role: string[]): Promise<Caller> => {
    const { token } = (await invite(logIn, role)).body;
    const caller = server.caller();
    expect((await use(token, { password: hand }, caller)).status).toBe(200);
    return caller;
  };
  const said = ({ status, body }: Answer): unknown => [status, body.error?.code];

  it('no invitation of a suspended administrator, or of one who administers no more, readmits them as another', async () => {
    for (const [logIn, role, suspended] of [
      ['mallow', ['administer'], true],
      ['sedge', ['prepare'], false],
    ] as const) {
      const caller = await person(logIn, ['administer']);
      const { token } = (await invite(`${logIn}-again`, ['administer'], caller)).body;
      expect((await change(logIn, [...role], suspended)).status).toBe(200);
      expect(said(await use(token))).toEqual([410, 'link-gone']);
      expect(await member(`${logIn}-again`)).toBeUndefined();
    }
  });

  it('not even one that was not taken back: whose right has gone is asked of the memberships of that moment', async () => {
    const caller = await person('tansy', ['administer']);
    const { token } = (await invite('tansy-again', ['administer'], caller)).body;
    await server.database.raw(
      `update member set suspended_at = now() where person_id = (select id from person where log_in = 'tansy')`,
    );
    expect(said(await use(token))).toEqual([410, 'link-gone']);
    const seen = server.caller();
    await seen.call('GET', '/api/session');
    expect(said(await seen.call('POST', '/api/links/seen', { token }))).toEqual([410, 'link-gone']);
  });

  it('a link for a new password opens no company that the person came to after it was made', async () => {
    await person('yarrow', ['review']);
    const { id } = await member('yarrow');
    const { token } = (await admin.call('POST', `/api/people/${id}/new-password`)).body;
    await server.database.raw(`insert into member (company_id, person_id, role) values (2, ?, '{prepare}')`, [
      id,
    ]);
    expect(said(await use(token))).toEqual([410, 'link-gone']);
    const { rows } = await server.database.raw(
      `select taken_back_at, used_at from link where log_in = 'yarrow'`,
    );
    expect(rows.at(-1)).toEqual({ taken_back_at: null, used_at: null });
  });

  it('a membership that somebody is suspended from elsewhere counts, when it is made and when it is used', async () => {
    await person('sorrel', ['review']);
    const { id } = await member('sorrel');
    const { token } = (await admin.call('POST', `/api/people/${id}/new-password`)).body;
    await server.database.raw(
      `insert into member (company_id, person_id, role, suspended_at) values (2, ?, '{prepare}', now())`,
      [id],
    );
    expect(said(await use(token))).toEqual([410, 'link-gone']);
    expect(said(await admin.call('POST', `/api/people/${id}/new-password`))).toEqual([403, 'not-allowed']);
  });
});

describe('what happened to people', () => {
  it('is told to their administrators in sentences, failures too', async () => {
    await server.caller().logIn('wren', 'not the one');
    const { events } = (await admin.call('GET', '/api/people')).body;
    const told = events.map(({ sentence }: { sentence: string }) => sentence).join('\n');
    for (const sentence of [
      /Logging in as wren failed from .*: the password does not fit/,
      /wren was invited as one who prepares/,
      /wren came to the company and prepares/,
      /bram prepares and reviews now, before reviews/,
      /bram was suspended/,
      /bram was readmitted/,
      /ilka chose a new password by a link/,
      /sunniva logged in from .* by Another program/,
    ]) {
      expect(told).toMatch(sentence);
    }
  });
});
