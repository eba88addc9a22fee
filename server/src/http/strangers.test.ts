import { addressOf, downloads, endpoints } from '@coffer/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { png } from '../testing/small-files.ts';
import { loanDocument, TestServer, type Caller } from '../testing/test-server.ts';

let server: TestServer;
let ours: Caller;
let theirs: { id: string; version: number; name: string };
let theirScenario: string;
let theirPaper: string;
beforeAll(async () => {
  server = await TestServer.start();
  ours = await server.as('ilka');
  const orrin = await server.as('orrin');
  const { body } = await orrin.call('GET', '/api/register?on=2026-10-31');
  theirs = body.rows[0];
  const changes = [{ instrumentId: theirs.id, version: theirs.version, terms: { lender: 'Theirs' } }];
  const kept = await orrin.insist('POST', '/api/scenarios', { name: 'Theirs', changes });
  theirScenario = kept.body.id;
  const paper = `/api/instruments/${theirs.id}/papers?name=Theirs.png`;
  theirPaper = (await orrin.sendFile(paper, png)).body.id;
});
afterAll(() => server.stop());

const month = { endsOn: '2026-10-31' };
const span = { from: '2026-09-01', to: '2026-10-31' };

/** Bodies that would act on the other company's instrument, by the call that takes them. */
const bodies = (): Record<string, object> => {
  const { id: instrumentId, version } = theirs;
  const changes = [{ instrumentId, version, terms: { lender: 'Ours' } }];
  const asked = { ...span, by: 'month', show: 'closing' };
  const payment = { instrumentId, version, due: '2026-10-10' };
  return {
    changeInstrument: { version, document: loanDocument('Ours now'), reason: 'Not ours' },
    documents: { ids: [instrumentId] },
    keepScenario: { name: 'Ours now', changes },
    tryPortfolio: { asked, on: '2026-10-31', changes },
    triedPortfolioFile: { asked, on: '2026-10-31', scenario: 'Ours now', changes, as: 'csv' },
    sideBySide: { on: '2026-10-31', scenarios: [changes] },
    changeScenario: { revision: 1, name: 'Ours now', changes },
    adoptScenario: { revision: 1, reason: 'Not ours' },
    withdrawInstrument: { version, reason: 'Not ours' },
    keepOwnAccounts: { accounts: [], costCentre: 'Ours' },
    recordPayments: { payments: [{ ...payment, on: '2026-10-10', amount: '1.00' }] },
    takeBackPayments: { payments: [payment], reason: 'Not ours' },
    takePaperAway: { reason: 'Not ours' },
    commentMonth: { instrumentId, text: 'Ours' },
  };
};

/** Calls that name no instrument: what they answer is our company's, which the caller looks at. */
const ofNoInstrument = ['health', 'company', 'register', 'createInstrument', 'duePayments', 'close']
  .concat([
    'chooseAccruals',
    'lock',
    'handOver',
    'returnMonth',
    'differences',
    'monthCorrected',
    'catchUps',
    'trail',
    'trailChecked',
    'approve',
    'journal',
    'portfolio',
    'scenarios',
    'people',
    'invite',
    'requireFactor',
    'accounts',
    'keepAccounts',
    'keepLedger',
    'takeOnMany',
    'takenOnSoFar',
    'rates',
    'lookAtFixings',
    'keepFixings',
    'fetchFixings',
    'settings',
    'changeSettings',
    'closedDays',
    'takeClosedDays',
    'broughtInto',
    'holidayCountries',
    'holidays',
  ])
  .sort();
/** Calls about a person of the other company, by whoever administers ours. */
const ofPeople: Record<string, object> = {
  changeMember: { role: [], suspended: true },
  newPasswordLink: {},
  endMemberSessions: {},
  takeBackInvitation: {},
};
/** Calls about nobody's company: they are for anyone, or for one's own account. */
const ofNoCompany = Object.entries(endpoints)
  .filter(([, { access }]) => ['anyone', 'person', 'administrator'].includes(String(access)))
  .map(([name]) => name);

const everything = async (): Promise<unknown> => {
  const { rows } = await server.database.raw(
    `select (select json_agg(i order by id) from instrument i where company_id = 2) as instruments,
            (select json_agg(e order by number) from entry e where company_id = 2) as entries,
            (select json_agg(p order by ends_on) from period p where company_id = 2) as periods,
            (select json_agg(s) from scenario s where company_id = 2) as scenarios,
            (select json_agg(r) from rate_index r where company_id = 2) as rates,
            (select json_agg(s) from setting s where company_id = 2) as settings,
            (select to_json(c) from company c where id = 2) as company,
            (select json_agg(p.id) from paper p where company_id = 2 and content is not null) as papers,
            (select json_agg(m) from member m where company_id = 2) as members,
            (select json_agg(l) from link l where company_id = 2) as links`,
  );
  return rows;
};

describe('what belongs to another company', () => {
  it('is not there for any call that names it, and stays as it was', async () => {
    const before = await everything();
    const tried: string[] = [];
    for (const [name, { method, path }] of Object.entries(endpoints)) {
      const body = bodies()[name];
      if (!path.includes(':id') && body === undefined) continue;
      tried.push(name);
      if (name === 'keepPaper') {
        const kept = await ours.sendFile(addressOf(path, { id: theirs.id }, { name: 'Ours.png' }), png);
        expect([name, kept.status]).toEqual([name, 404]);
        continue;
      }
      const id = path.startsWith('/api/scenarios/') ? theirScenario : theirs.id;
      const query = method === 'delete' ? { revision: '1' } : {};
      const address = addressOf(path, { ...month, id, paper: theirPaper }, query);
      const answer = await ours.call(method.toUpperCase(), address, body);
      expect([name, answer.status]).toEqual([name, 404]);
    }
    const named = new Set([...tried, ...ofNoInstrument, ...Object.keys(ofPeople), ...ofNoCompany]);
    expect(Object.keys(endpoints).filter((name) => !named.has(name))).toEqual([]);
    for (const [name, { path }] of Object.entries(downloads)) {
      const asked = path.includes(':id')
        ? { on: '2026-10-31' }
        : { ...span, instrument: theirs.id, by: 'month', show: 'closing' };
      const answer = await ours.call('GET', addressOf(path, { id: theirs.id, paper: theirPaper }, asked));
      if (path.includes(':id')) expect([name, answer.status]).toEqual([name, 404]);
    }
    const { body: journal } = await ours.call(
      'GET',
      addressOf('/api/journal', {}, { ...span, instrument: theirs.id }),
    );
    expect([journal.count, journal.entries]).toEqual([0, []]);
    expect(await everything()).toEqual(before);
  });

  it('is refused, whatever is asked, to who names the other company and is not of it', async () => {
    const before = await everything();
    const asTheirs = { 'x-coffer-company': '2' };
    for (const [name, { method, path }] of Object.entries(endpoints)) {
      if (ofNoCompany.includes(name)) continue;
      const address = addressOf(path, {
        ...month,
        id: theirs.id,
        person: '5',
        invitation: '1',
        key: theirs.id,
        paper: theirPaper,
      });
      const { status, body } = await ours.call(
        method.toUpperCase(),
        address,
        method === 'get' ? undefined : (bodies()[name] ?? {}),
        asTheirs,
      );
      expect([name, status, body.error.code]).toEqual([name, 403, 'not-of-company']);
    }
    for (const { path } of Object.values(downloads)) {
      const answer = await ours.call(
        'GET',
        addressOf(path, { ...month, id: theirs.id, paper: theirPaper }, { ...span, company: '2' }),
      );
      expect([path, answer.status]).toEqual([path, 403]);
    }
    for (const odd of ['', '0', '1,2', '1.0', 'x', '99']) {
      const answer = await ours.call('GET', '/api/company', undefined, { 'x-coffer-company': odd });
      expect([odd, answer.status]).toEqual([odd, 403]);
    }
    expect(await everything()).toEqual(before);
  });

  it('are people, too, whom nobody of ours changes', async () => {
    const sunniva = await server.as('sunniva');
    const { rows } = await server.database.raw(`select id from person where log_in = 'orrin'`);
    await server.database.raw(`insert into link
      (company_id, kind, token_hash, log_in, name, role, expires_at)
      values (2, 'invitation', 'x', 'x', 'x', array['review'], now() + interval '1 day')`);
    const before = await everything();
    for (const [name, body] of Object.entries(ofPeople)) {
      const { method, path } = endpoints[name as keyof typeof endpoints];
      const address = addressOf(path, { person: String(rows[0].id), invitation: '1' });
      const answer = await sunniva.call(method.toUpperCase(), address, body);
      expect([name, answer.status]).toEqual([name, 404]);
    }
    expect(await everything()).toEqual(before);
    const { people, events } = (await sunniva.call('GET', '/api/people')).body;
    expect(people.map(({ logIn }: { logIn: string }) => logIn)).toEqual([
      'bram',
      'ilka',
      'sunniva',
      'tobiah',
    ]);
    expect(JSON.stringify(events)).not.toMatch(/orrin/i);
  });

  it('is not among our figures, and ours are not among theirs', async () => {
    const second = await server.as('orrin');
    for (const path of [
      '/api/register?on=2026-10-31',
      '/api/company',
      '/api/payments',
      '/api/scenarios',
      '/api/portfolio?from=2026-09-01&to=2026-12-31&by=month&show=closing',
      '/api/periods/2026-10-31/close',
    ]) {
      await ours.call('GET', path);
      const { text } = await second.call('GET', path);
      expect(text).not.toMatch(/Ostrel|Furnace|Delivery fleet/);
    }
    // Both have an instrument of one name, and months of one end.
    const registers = await Promise.all(
      [ours, second].map(
        async (caller) => (await caller.call('GET', '/api/register?on=2026-10-31')).body.rows,
      ),
    );
    const named = registers.map((rows) =>
      rows.find(({ name }: { name: string }) => name === 'Annealing line loan'),
    );
    expect(named[0].id).not.toBe(named[1].id);
    const locked = await second.insist('POST', '/api/periods/2026-10-31/lock', {});
    expect(locked.status).toBe(200);
    expect((await ours.call('GET', '/api/periods/2026-10-31/close')).body.state).toBe('open');
  });
});
