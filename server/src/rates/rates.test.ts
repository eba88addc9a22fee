import { createServer, type Server } from 'node:http';
import type { FollowedInstrument, KeptIndex } from '@coffer/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { listening, loanDocument, TestServer, type Answer, type Caller } from '../testing/test-server.ts';
import { fetchPublished } from './rate-service.ts';

let server: TestServer;
let ilka: Caller;
beforeAll(async () => {
  server = await TestServer.start();
  ilka = await server.as('ilka');
});
afterAll(() => server.stop());

const norbay = 'Norbay three-month rate';
const floating = (name: string, rate: object, more: object = {}): Record<string, unknown> =>
  loanDocument(name, { start: '2026-10-15', rate, ...more });
const keptOf = async (index = norbay): Promise<KeptIndex | undefined> =>
  (await ilka.call('GET', '/api/rates')).body.indexes.find(({ name }: KeptIndex) => name === index);
const look = (fixings: object[], index = norbay): Promise<Answer> =>
  ilka.call('POST', '/api/rates/looked-at', { index, fixings });
const seen = (answer: Answer, name: string): FollowedInstrument =>
  answer.body.instruments.find((each: FollowedInstrument) => each.name === name);
/** Keeps fixings as they were looked at, for all instruments that take them or for some. */
const keep = async (fixings: object[], index = norbay, more: object = {}): Promise<Answer> => {
  const { body } = await look(fixings, index);
  const instruments = (body.instruments as FollowedInstrument[])
    .filter(({ taken, faults }) => taken.length > 0 && faults.length === 0)
    .map(({ instrumentId: id, version }) => ({ id, version }));
  const reason = 'Published on the day';
  const sent = { index, fixings, revision: body.revision, source: 'typed', reason, instruments, ...more };
  return ilka.insist('POST', '/api/rates', sent);
};
const instrument = async (id: string): Promise<{ document: { rate: { index: object } }; version: number }> =>
  (await ilka.call('GET', `/api/instruments/${id}`)).body;
const idOf = async (name: string): Promise<string> =>
  (await ilka.call('GET', '/api/register?on=2026-10-31')).body.rows.find(
    (row: { name: string }) => row.name === name,
  ).id;

describe('a new fixing', () => {
  it('shows what it does before it is kept, and keeps nothing', async () => {
    const before = await keptOf();
    const answer = await look([{ on: '2026-10-15', rate: '2.495%' }]);
    const { effect, taken, faults } = seen(answer, 'Furnace rebuild loan');
    expect(faults).toEqual([]);
    expect(taken).toEqual([{ on: '2026-10-15', rate: '2.495%', was: null }]);
    // Index plus margin (common practice): 2.580 + 1.85 before, 2.495 + 1.85 from the reset on.
    expect(effect?.rate).toEqual({ on: '2026-10-15', before: '4.43%', after: '4.345%' });
    expect(effect?.payment?.due).toBe('2027-01-15');
    expect(effect?.payment?.after).toBeLessThan(effect?.payment?.before ?? 0);
    // Sixteen days from the reset to the month's end, on what is owed then, at 0.085 % less, actual/360 (ISDA 4.16(e)).
    const register = (await ilka.call('GET', '/api/register?on=2026-10-15')).body;
    const owed = register.rows.find((row: { name: string }) => row.name === 'Furnace rebuild loan').figures
      .outstanding;
    const less = (effect?.month.before ?? 0) - (effect?.month.after ?? 0);
    expect(Math.abs(less - (owed * 0.00085 * 16) / 360)).toBeLessThanOrEqual(1);
    // September and what came before are not touched.
    expect(effect?.closed.before).toBe(effect?.closed.after);
    expect(await keptOf()).toEqual(before);
  });

  it('reaches every instrument that follows the index, as one change with its reason', async () => {
    const index = { name: '  NORBAY three-month  RATE', margin: '2%', resetEvery: 'month', fixings: [] };
    const second = floating('Second floating loan', { index, annual: '4.9%' }, { start: '2026-09-15' });
    const { id } = (await ilka.insist('POST', '/api/instruments', { document: second })).body;
    const first = await idOf('Furnace rebuild loan');
    const { version } = await instrument(first);
    const revision = (await keptOf())?.revision ?? 0;
    const { body } = await keep([{ on: '2026-10-15', rate: '2.495%' }]);
    expect(body.saved).toHaveLength(2);
    for (const each of [first, id]) {
      const { document } = await instrument(each);
      expect(document.rate.index).toMatchObject({
        fixings: expect.arrayContaining([{ on: '2026-10-15', rate: '2.495%' }]),
      });
    }
    const history = (await ilka.call('GET', `/api/instruments/${first}`)).body;
    expect(history.version).toBe(version + 1);
    expect(history.versions[0].reason).toBe('Published on the day');
    const kept = await keptOf();
    expect([kept?.revision, kept?.followers]).toEqual([revision + 1, 2]);
    expect(kept?.fixings[0]).toMatchObject({
      on: '2026-10-15',
      rate: '2.495%',
      source: 'typed',
      by: 'Ilka Varga',
    });
    const { rows } = await server.database.raw(
      `select detail from audit_event where action = 'fixings-kept' order by id desc limit 1`,
    );
    expect(rows[0].detail).toMatchObject({ index: norbay, reason: 'Published on the day', instruments: 2 });
    expect(await server.disagreements()).toEqual([]);
  });

  it('is put right, and taken back, where it was taken over; what an agreement has of its own stays', async () => {
    const id = await idOf('Second floating loan');
    const own = floating('Loan with its own fixing', {
      index: {
        name: norbay,
        margin: '1%',
        resetEvery: 'quarter',
        fixings: [{ on: '2026-10-15', rate: '2.400%' }],
      },
    });
    const mine = (await ilka.insist('POST', '/api/instruments', { document: own })).body.id;
    const corrected = await look([{ on: '2026-10-15', rate: '2.505%' }]);
    expect(seen(corrected, 'Loan with its own fixing')).toMatchObject({
      taken: [],
      own: [{ on: '2026-10-15', own: '2.400%', published: '2.505%' }],
    });
    await keep([{ on: '2026-10-15', rate: '2.505%' }]);
    expect((await instrument(id)).document.rate.index).toMatchObject({
      fixings: [{ on: '2026-10-15', rate: '2.505%' }],
    });
    expect((await instrument(mine)).document.rate.index).toMatchObject({
      fixings: [{ on: '2026-10-15', rate: '2.400%' }],
    });
    await keep([{ on: '2026-10-15', rate: null }]);
    expect((await instrument(id)).document.rate.index).toMatchObject({ fixings: [] });
    expect((await keptOf())?.fixings.map(({ on }) => on)).not.toContain('2026-10-15');
    await keep([{ on: '2026-10-15', rate: '2.495%' }]);
  });

  it('takes on a reset day the last value published by then, once a later one shows that none is missing', async () => {
    const index = 'Weekly rate of the test';
    await keep([{ on: '2026-10-12', rate: '3.000%' }], index);
    const document = floating('Loan on a weekly index', {
      annual: '9%',
      index: { name: index, resetEvery: 'month', fixings: [] },
    });
    const { id } = (await ilka.insist('POST', '/api/instruments', { document })).body;
    await keep([{ on: '2026-10-19', rate: '3.100%' }], index);
    // On its first day the rate that was agreed holds, whatever the index was.
    expect((await instrument(id)).document.rate.index).toMatchObject({ fixings: [] });
    await keep([{ on: '2026-11-09', rate: '3.200%' }], index);
    // Nothing is known yet of the 15th: the value of the 9th may not be the last before it.
    expect((await instrument(id)).document.rate.index).toMatchObject({ fixings: [] });
    await keep([{ on: '2026-11-16', rate: '3.300%' }], index);
    expect((await instrument(id)).document.rate.index).toMatchObject({
      fixings: [{ on: '2026-11-15', rate: '3.200%' }],
    });
  });

  it('that an instrument was left out of is taken later, without anything new to keep', async () => {
    const index = 'Late rate of the test';
    const document = floating(
      'Loan that is late',
      { annual: '5%', index: { name: index, resetEvery: 'month', fixings: [] } },
      { start: '2026-09-15' },
    );
    const { id } = (await ilka.insist('POST', '/api/instruments', { document })).body;
    await keep([{ on: '2026-10-15', rate: '2.000%' }], index, { instruments: [] });
    expect((await instrument(id)).document.rate.index).toMatchObject({ fixings: [] });
    const lacks = await look([], index);
    expect(seen(lacks, 'Loan that is late').taken).toEqual([{ on: '2026-10-15', rate: '2.000%', was: null }]);
    expect((await keep([], index)).body.saved).toHaveLength(1);
    expect((await look([], index)).body.instruments).toEqual([]);
  });

  it('is refused where it was looked at before somebody else kept one, and nothing is half kept', async () => {
    const revision = (await keptOf())?.revision ?? 0;
    const fixings = [{ on: '2026-11-16', rate: '2.400%' }];
    const stale = await keep(fixings, norbay, { revision: revision - 1 });
    expect([stale.status, stale.body.error.code]).toEqual([409, 'stale-version']);
    const id = await idOf('Furnace rebuild loan');
    const { version } = await instrument(id);
    const old = await keep([{ on: '2027-01-15', rate: '2.300%' }], norbay, {
      instruments: [{ id, version: version - 1 }],
    });
    expect([old.status, old.body.error.code]).toEqual([409, 'changed-meanwhile']);
    const twice = await look([...fixings, ...fixings]);
    expect(twice.body.error.faults[0].key).toBe('fixings.1.on');
    for (const wrong of [
      { on: '2026-02-30', rate: '2%' },
      { on: '2026-11-16', rate: '2,4' },
      { on: '2026-11-16', rate: '1001%' },
    ]) {
      expect((await look([wrong])).status).toBe(422);
    }
    expect((await keep([], norbay)).status).toBe(422);
    expect((await keptOf())?.revision).toBe(revision);
  });
});

describe('a floating loan', () => {
  it('needs no annual rate where a fixing stands on its first day, alone or among many', async () => {
    const rate = { index: { name: norbay, margin: '1.5%', resetEvery: 'quarter', fixings: [] } };
    const alone = await ilka.insist('POST', '/api/instruments', {
      document: floating('No rate typed', rate),
    });
    expect(alone.status).toBe(200);
    expect((await instrument(alone.body.id)).document.rate.index).toMatchObject({
      fixings: [{ on: '2026-10-15', rate: '2.495%' }],
    });
    const documents = ['One of two', 'Two of two'].map((name) => floating(name, rate));
    expect((await ilka.insist('POST', '/api/instruments/many', { documents })).body).toEqual({
      instruments: 2,
    });
    const early = floating('Before the index', rate, {
      start: '2020-10-15',
      payments: { every: 'month', first: '2026-11-15', phases: [{ type: 'level', count: 9 }] },
    });
    const refused = await ilka.insist('POST', '/api/instruments', { document: early });
    expect(refused.body.error.faults[0]).toMatchObject({ key: 'rate.annual' });
  });

  it('that follows a name which the company has not kept is told', async () => {
    const rate = { annual: '5%', index: { name: 'Rate of nobody', fixings: [] } };
    await ilka.insist('POST', '/api/instruments', { document: floating('Follows nobody', rate) });
    const { body } = await ilka.call('GET', '/api/rates');
    expect(body.unkept).toEqual([{ name: 'Rate of nobody', followers: 1 }]);
  });
});

describe('the rate service', () => {
  it('tells what it has published by now and the company has not kept so', async () => {
    const { body } = await ilka.call('POST', '/api/rates/fetched', {});
    const found = body.indexes.find(({ name }: { name: string }) => name === norbay);
    const kept = new Set((await keptOf())?.fixings.map(({ on }) => on));
    expect(found.fixings.some(({ on }: { on: string }) => kept.has(on))).toBe(false);
    expect(found.fixings.at(-1).on).toBe('2027-01-15');
    expect(body.indexes).toHaveLength(3);
  });

  it.each([
    ['is silent', undefined, /at http:\/\/127\.0\.0\.1:1 does not answer/],
    ['answers an error', { status: 500, text: 'no' }, /answered with 500/],
    ['answers no JSON', { status: 200, text: '<html>' }, /cannot be read as fixings/],
    [
      'answers another shape',
      { status: 200, text: '{"indexes":[{"name":"x","fixings":[{"on":"2026-02-30","rate":"1%"}]}]}' },
      /cannot be read as fixings/,
    ],
    ['answers without end', { status: 200, text: ' '.repeat(4_100_000) }, /more than four megabytes/],
    ['leads elsewhere', { status: 302, text: '' }, /does not answer/],
  ])('that %s is told, and nothing is changed', async (_, answer, message) => {
    let standIn: Server | undefined;
    let address = 'http://127.0.0.1:1';
    if (answer) {
      standIn = createServer((__, response) => {
        response.writeHead(answer.status, { location: 'http://127.0.0.1:1/' }).end(answer.text);
      });
      address = await listening(standIn);
    }
    await expect(fetchPublished(address, '2026-10-31')).rejects.toMatchObject({
      status: 502,
      message: expect.stringMatching(message),
    });
    standIn?.closeAllConnections();
    standIn?.close();
  });

  it('that an installation has not is told', async () => {
    await expect(fetchPublished(undefined, '2026-10-31')).rejects.toMatchObject({ status: 409 });
  });
});
