import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { passwords, setUpCode, TestServer, type Answer, type Caller } from '../testing/test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.startOwn();
});
afterAll(() => server.stop());

const company = {
  name: 'Pellwin Flat Glass',
  currency: 'GBP',
  fiscalYearEndMonth: 3,
  booksFrom: '2026-04-01',
};
const person = { name: 'Maren Tolliver', logIn: 'maren', password: 'otter lantern gravel pine' };
const fresh = async (): Promise<Caller> => {
  const caller = server.caller();
  await caller.call('GET', '/api/session');
  return caller;
};
const setUp = async (more: object, by?: Caller): Promise<Answer> =>
  (by ?? (await fresh())).call('POST', '/api/set-up', { code: setUpCode, company, person, ...more });
const faults = ({ body }: Answer): string[] => body.error.faults.map(({ key }: { key: string }) => key);

describe('an installation of one’s own', () => {
  it('is empty: no company, no person of the demo, and says so', async () => {
    const caller = await fresh();
    expect((await caller.call('GET', '/api/session')).body).toEqual({ person: null, installation: 'empty' });
    for (const [logIn, password] of Object.entries(passwords)) {
      expect((await server.caller().logIn(logIn, password)).status).toBe(401);
    }
    expect((await caller.call('GET', '/api/company')).status).toBe(401);
  });

  it('is set up by who has the code, and by nobody else', async () => {
    const caller = await fresh();
    const wrong = await caller.call('POST', '/api/set-up/code', { code: 'ABCDEABCDEABCDEABCDE' });
    expect([wrong.status, wrong.body.error.faults[0].key]).toEqual([401, 'code']);
    expect((await setUp({ code: 'ABCDEABCDEABCDEABCDE' })).status).toBe(401);
    // As it is printed, with dashes, and in small letters.
    const typed = (setUpCode.match(/.{5}/g) ?? []).join('-').toLowerCase();
    expect((await caller.call('POST', '/api/set-up/code', { code: typed })).status).toBe(200);
  });

  it('says at each field what cannot be', async () => {
    expect(faults(await setUp({ company: { ...company, currency: 'GBB' } }))).toEqual(['company.currency']);
    expect(faults(await setUp({ company: { ...company, booksFrom: '2026-04-02' } }))).toEqual([
      'company.booksFrom',
    ]);
    expect(faults(await setUp({ company: { ...company, fiscalYearEndMonth: 13 } }))).toEqual([
      'company.fiscalYearEndMonth',
    ]);
    expect(faults(await setUp({ person: { ...person, logIn: 'maren tolliver' } }))).toEqual(['person.logIn']);
    for (const password of ['short', 'pellwinflatglass', passwords.ilka]) {
      expect(faults(await setUp({ person: { ...person, password } }))).toEqual(['person.password']);
    }
    expect((await server.database.raw('select count(*) as many from company')).rows[0].many).toBe(0);
  });

  it('begins with one company, whoever else comes with the code at once', async () => {
    const callers = await Promise.all([fresh(), fresh(), fresh()]);
    const answers = await Promise.all(callers.map((caller) => setUp({}, caller)));
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409, 409]);
    const maren = callers[answers.findIndex(({ status }) => status === 200)] as Caller;
    const { body } = await maren.call('GET', '/api/company');
    expect(body).toMatchObject({ ...company, digits: 2 });
    expect(body.periods).toEqual([
      { endsOn: '2026-04-30', state: 'open', closedAt: null, closedBy: null, closedAs: null },
    ]);
    expect((await setUp({})).body.error.message).toMatch(/is set up; its code is used up/);
    expect((await maren.call('GET', '/api/session')).body.installation).toBe('own');
  });

  it('keeps further companies, each of one name, made by who administers one', async () => {
    const maren = server.caller();
    await maren.logIn('maren', person.password);
    const make = (more: object, by = maren): Promise<Answer> =>
      by.call('POST', '/api/companies', { ...company, ...more });
    expect(faults(await make({ name: 'PELLWIN flat glass' }))).toEqual(['name']);
    const made = await make({ name: 'Pellwin Holding', currency: 'JPY', booksFrom: '2025-01-01' });
    expect(made.body.person.companies.map(({ name }: { name: string }) => name)).toEqual([
      'Pellwin Flat Glass',
      'Pellwin Holding',
    ]);
    const { id } = made.body.person.companies[1];
    const holding = await maren.call('GET', '/api/company', undefined, { 'x-coffer-company': String(id) });
    expect(holding.body).toMatchObject({ name: 'Pellwin Holding', digits: 0 });
    // Who administers none makes none.
    const first = { 'x-coffer-company': '1' };
    const invited = { name: 'Joss Arden', logIn: 'joss', role: ['prepare'] };
    const { token } = (await maren.call('POST', '/api/people/invitations', invited, first)).body;
    const joss = await fresh();
    await joss.call('POST', '/api/links/used', { token, password: 'copper willow ember north' });
    expect((await make({ name: 'Joss Ltd' }, joss)).status).toBe(403);
  });
});
