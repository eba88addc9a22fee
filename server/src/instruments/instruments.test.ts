import { randomUUID } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { parse } from 'csv-parse/sync';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { loanDocument, TestServer, type Answer, type Caller } from '../testing/test-server.ts';

let server: TestServer;
let preparer: Caller;
beforeAll(async () => {
  server = await TestServer.start();
  preparer = await server.as('ilka');
});
afterAll(() => server.stop());

const create = (document: object, headers: Record<string, string> = {}): Promise<Answer> =>
  preparer.call('POST', '/api/instruments', { document }, headers);
const instrumentCount = async (): Promise<number> =>
  Number((await server.database('instrument').count({ many: '*' }).first())?.['many']);

describe('taking on an instrument', () => {
  it('gives back the document as it came', async () => {
    const folder = new URL('../../../demo/instruments/', import.meta.url);
    for (const file of readdirSync(folder)) {
      const document = {
        ...JSON.parse(readFileSync(new URL(file, folder), 'utf8')),
        name: `Copy of ${file}`,
      };
      const { body, status } = await preparer.insist('POST', '/api/instruments', { document });
      expect(status, file).toBe(200);
      const out = await preparer.call('GET', `/api/instruments/${body.id}/document.json`);
      expect(JSON.parse(out.text)).toEqual(document);
    }
  });

  it.each([
    ['a negative amount', { amount: '-5.00' }, 'amount'],
    ['an absurd amount', { amount: '99999999999999.00' }, 'amount'],
    [
      'a first payment before the start',
      { payments: { every: 'month', first: '2026-09-01', phases: [{ type: 'level', count: 12 }] } },
      'payments.first',
    ],
    ['a rate over 1000 %', { rate: { annual: '1000.01%' } }, 'rate.annual'],
    [
      'over 1,200 payments',
      { payments: { every: 'month', first: '2026-11-01', phases: [{ type: 'level', count: 1201 }] } },
      'payments.phases.0.count',
    ],
    [
      'a payment that never repays',
      { payments: { every: 'month', first: '2026-11-01', phases: [{ type: 'fixed', payment: '500.00' }] } },
      'payments.phases.0.payment',
    ],
    ['30 February', { start: '2026-02-30' }, 'start'],
    ['an unknown key', { colour: 'green' }, 'colour'],
    ['a number for an amount', { amount: 100000 }, 'amount'],
    ['another currency', { currency: 'USD' }, 'currency'],
    ['no such currency', { currency: 'EUX' }, 'currency'],
  ])('with %s is refused, naming the field, and nothing is written', async (_, more, key) => {
    const before = await instrumentCount();
    const { status, body } = await create(loanDocument('Refused', more));
    expect(status).toBe(422);
    expect(body.error.faults.map((fault: { key: string }) => fault.key)).toContain(key);
    expect(await instrumentCount()).toBe(before);
  });

  it('of a bond that matures before its issue is refused', async () => {
    const bond = {
      document: 'coffer.instrument/1',
      kind: 'bond',
      name: 'Backwards',
      currency: 'EUR',
      face: '1000.00',
      issued: '2026-10-01',
      matures: '2025-10-01',
      coupon: { annual: '5%', every: 'year' },
      price: '100',
    };
    const { status, body } = await create(bond);
    expect([status, body.error.faults[0].key]).toEqual([422, 'matures']);
  });

  it('tells all faults of a document at once', async () => {
    const { body } = await create(
      loanDocument('Refused', { amount: 'many', start: 'soon', rate: { annual: '6' } }),
    );
    expect(body.error.faults.map((fault: { key: string }) => fault.key)).toEqual([
      'amount',
      'start',
      'rate.annual',
    ]);
  });

  it('under a name that is taken, in whatever case, is refused', async () => {
    await create(loanDocument('Cooling tunnel loan'));
    const { status, body } = await create(loanDocument('COOLING TUNNEL LOAN'));
    expect([status, body.error.faults[0].key]).toEqual([409, 'name']);
  });

  it('acts once for a key, also when sent twice at the same time', async () => {
    const key = { 'idempotency-key': randomUUID() };
    const once = (): Promise<Answer> => create(loanDocument('Once only'), key);
    const answers = await Promise.all([1, 2, 3].map(once));
    const done = answers.filter(({ status }) => status === 200);
    expect(new Set(done.map(({ body }) => body.id)).size).toBe(1);
    // Whoever asks while it is under way waits for nothing, is told when to ask again, and hears then how it ended.
    for (const answer of answers.filter((each) => !done.includes(each))) {
      expect([answer.status, answer.body.error.code]).toEqual([409, 'in-progress']);
      expect(answer.headers.get('retry-after')).toBe('1');
    }
    expect((await once()).body).toEqual(done[0]?.body);
    const other = await create(loanDocument('Something else'), key);
    expect(other.body.error.code).toBe('key-reused');
  });
});

describe('changing an instrument', () => {
  it('makes a version with who and why, and refuses one made from an older version', async () => {
    const { body: saved } = await create(loanDocument('Versioned loan'));
    const change = (version: number, annual: string): Promise<Answer> =>
      preparer.call('PUT', `/api/instruments/${saved.id}`, {
        version,
        document: loanDocument('Versioned loan', { rate: { annual } }),
        reason: `Rate to ${annual}`,
      });
    const [one, two] = await Promise.all([change(1, '5%'), change(1, '7%')]);
    expect([one.status, two.status].sort()).toEqual([200, 409]);
    const stale = one.status === 409 ? one : two;
    expect(stale.body.error.message).toMatch(/is at version 2/);
    const { body } = await preparer.call('GET', `/api/instruments/${saved.id}`);
    expect(body.versions).toHaveLength(2);
    expect(body.versions[0]).toMatchObject({ version: 2, madeBy: 'Ilka Varga' });
    const before = await preparer.call('GET', `/api/instruments/${saved.id}?version=1`);
    expect(before.body.document.rate.annual).toBe('6%');
  });

  it('keeps what a version said: the database changes none', async () => {
    await expect(server.owned('instrument_version').update({ reason: 'other' })).rejects.toThrow(
      /never changed/,
    );
    await expect(server.owned('instrument_version').delete()).rejects.toThrow(/never changed/);
  });
});

describe('a schedule as CSV', () => {
  it('has the payment that tables print, and text that no reader takes for a formula', async () => {
    const { body: saved } = await create(loanDocument('=SUM(A1)'));
    const { text, headers } = await preparer.call('GET', `/api/instruments/${saved.id}/schedule.csv`);
    const rows = parse(text, { columns: true }) as Record<string, string>[];
    // Monthly mortgage payment tables, widely printed: 100,000 at 6 % over 360 pays 599.55; from memory.
    expect(rows[0]).toMatchObject({
      n: '1',
      due: '2026-11-01',
      payment: '599.55',
      interest: '500.00',
      principal: '99.55',
    });
    expect(headers.get('content-disposition')).toMatch(/schedule\.csv/);
  });
});
