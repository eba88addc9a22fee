import { randomUUID } from 'node:crypto';
import { gzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { loanDocument, TestServer, type Answer, type Caller } from '../testing/test-server.ts';
import { insertInstrument } from './instrument-store.ts';

let server: TestServer;
let preparer: Caller;
beforeAll(async () => {
  server = await TestServer.start();
  await server.alone();
  preparer = await server.as('ilka');
});
afterAll(() => server.stop());

const create = (document: object): Promise<Answer> => preparer.call('POST', '/api/instruments', { document });

/** Ends leaving its balance, on which interest at 1000 % compounded daily runs on. */
const runaway = {
  ...loanDocument('Runaway loan'),
  amount: '999999999999.99',
  start: '2026-01-01',
  rate: { annual: '1000%', compounding: 'daily', dayCount: 'ACT/365F' },
  payments: {
    every: 'month',
    first: '2026-02-01',
    phases: [{ type: 'interest-only', count: 2 }],
    atEnd: 'leave',
  },
};

describe('one document stops nobody', () => {
  it('is refused where its amounts outgrow what can be kept, on its days or in the years after', async () => {
    const { status, body } = await create(runaway);
    expect(status).toBe(422);
    expect(body.error.faults).toMatchObject([{ key: 'amount', message: /kept exactly/ }]);
  });

  it('where it is there already it is named with the reason, the rest stands, and no month is locked', async () => {
    const by = { companyId: 1, id: null };
    await server.database.transaction((on) =>
      insertInstrument(on, by, randomUUID(), runaway as never, 'Kept before such were refused'),
    );
    const register = await preparer.call('GET', '/api/register?on=2026-10-31');
    expect(register.status).toBe(200);
    expect(register.body.unworkable).toMatchObject([{ name: 'Runaway loan', message: /kept exactly/ }]);
    expect(register.body.rows.length).toBeGreaterThan(10);
    const close = await preparer.call('GET', '/api/periods/2026-10-31/close');
    expect(close.body.unworkable).toMatchObject([{ name: 'Runaway loan' }]);
    expect((await preparer.call('GET', '/api/payments')).status).toBe(200);
    const lock = await preparer.call('POST', '/api/periods/2026-10-31/lock', {});
    expect([lock.status, lock.body.error.message]).toEqual([409, expect.stringContaining('Runaway loan')]);
  });

  it('is refused where it takes more work than one instrument may, saying what to do', async () => {
    const events = Array.from({ length: 300 }, (_, at) => ({
      type: 'fee',
      on: new Date(Date.UTC(2026, 9, 2 + at * 7)).toISOString().slice(0, 10),
      amount: '1.00',
      treatment: 'defer',
    }));
    const dear = {
      ...loanDocument('Dear loan'),
      payments: { every: 'week', first: '2026-10-08', phases: [{ type: 'level', count: 1200 }] },
      start: '2026-10-01',
      issueCosts: { amount: '100.00' },
      events,
    };
    const { status, body } = await create(dear);
    expect([status, body.error.faults[0].key]).toEqual([422, 'events']);
    expect(body.error.faults[0].message).toMatch(/at most \d+ such events/);
  });
});

describe('one dear document keeps nobody waiting', () => {
  const fees = Array.from({ length: 30 }, (_, at) => ({
    type: 'fee',
    on: new Date(Date.UTC(2026, 9, 2 + at * 60)).toISOString().slice(0, 10),
    amount: '1.00',
    treatment: 'defer',
  }));
  const dear = (name: string): object => ({
    ...loanDocument(name),
    payments: { every: 'week', first: '2026-10-08', phases: [{ type: 'level', count: 1200 }] },
    issueCosts: { amount: '100.00' },
    events: fees,
  });

  // Common practice: what takes long is worked out beside the calls that are answered meanwhile.
  it('others are answered before the register that works it out, and before it is taken on', async () => {
    const answered: string[] = [];
    const telling = async (name: string, call: Promise<Answer>): Promise<number> => {
      const { status } = await call;
      answered.push(name);
      return status;
    };
    const other = await server.as('bram');
    const taken = telling('taken on', create(dear('Dear loan of thirty fees')));
    const meanwhile = telling('session', other.call('GET', '/api/session'));
    expect(await Promise.all([taken, meanwhile])).toEqual([200, 200]);
    // Stored without having been read first, so that the register works it out.
    const by = { companyId: 1, id: null };
    await server.database.transaction((on) =>
      insertInstrument(on, by, randomUUID(), dear('Another dear loan') as never, 'Brought in'),
    );
    const register = telling('register', preparer.call('GET', '/api/register?on=2026-10-31'));
    const company = telling('company', other.call('GET', '/api/company'));
    expect(await Promise.all([register, company])).toEqual([200, 200]);
    expect(answered).toEqual(['session', 'taken on', 'company', 'register']);
  });
});

describe('what was sent is at fault, and told so', () => {
  it.each([
    ['a NUL', 'NUL \0 inside'],
    ['half of a character', 'half \ud800 of one'],
    ['a mark that turns the direction', 'left \u202e right'],
    ['a control character', 'bell \u0007'],
  ])('%s in a name', async (_, name) => {
    const { status, body } = await create({ ...loanDocument('Any'), name });
    expect([status, body.error.faults[0].key]).toEqual([422, expect.stringMatching(/name$/)]);
  });

  it('a NUL in the reason of a change, and in a log-in', async () => {
    const { body } = await create(loanDocument('Reasoned loan'));
    const change = { version: 1, document: loanDocument('Reasoned loan'), reason: 'why \0 not' };
    expect((await preparer.call('PUT', `/api/instruments/${body.id}`, change)).status).toBe(422);
    expect((await preparer.logIn('ilka\0', 'any')).status).toBe(422);
    preparer = await server.as('ilka');
  });

  it('more than ten thousand names, or a quarter of a million values', async () => {
    const names = Object.fromEntries(Array.from({ length: 10_000 }, (_, at) => [`k${at}`, 0]));
    const values = `{"document":[${'0,'.repeat(250_000)}0]}`;
    for (const body of [{ document: names }, values]) {
      const { status, body: answer } = await preparer.call('POST', '/api/instruments', body);
      expect([status, answer.error.code]).toEqual([413, 'too-many-values']);
    }
  });

  it('text that is no UTF-8', async () => {
    const bytes = Buffer.from('{"document":"\xff"}', 'latin1');
    const answer = await preparer.send('/api/instruments', bytes);
    expect([answer.status, (await answer.json()).error.code]).toEqual([400, 'not-json']);
  });

  it('a body nested a hundred thousand deep', async () => {
    const deep = `{"document":${'['.repeat(100_000)}${']'.repeat(100_000)}}`;
    expect((await preparer.call('POST', '/api/instruments', deep)).status).toBe(400);
  });

  it('packed, and more than is taken, with the limit that holds', async () => {
    const whole = gzipSync(JSON.stringify({ document: loanDocument('Zipped') }));
    const packed = await preparer.send('/api/instruments', whole, 'gzip');
    expect([packed.status, (await packed.json()).error.code]).toEqual([415, 'encoded']);
    const large = await preparer.call('POST', '/api/instruments', { text: 'x'.repeat(5_000_000) });
    expect([large.status, large.body.error.message]).toEqual([413, expect.stringContaining('4 MB')]);
  });

  it('one name taken on ten times at once is taken on once', async () => {
    const document = loanDocument('Contested name');
    const answers = await Promise.all(Array.from({ length: 10 }, () => create(document)));
    const statuses = answers.map(({ status }) => status).sort();
    expect(statuses).toEqual([200, ...Array.from({ length: 9 }, () => 409)]);
  });
});
