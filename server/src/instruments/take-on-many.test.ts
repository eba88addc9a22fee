import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { loanDocument, TestServer, type Answer, type Caller } from '../testing/test-server.ts';

let server: TestServer;
let ilka: Caller;
beforeAll(async () => {
  server = await TestServer.startEmpty('2026-10-01');
  ilka = await server.as('ilka');
});
afterAll(() => server.stop());

const many = (count: number, from = 0): Record<string, unknown>[] =>
  Array.from({ length: count }, (_, at) => loanDocument(`Loan ${from + at}`));
const takeOn = (documents: unknown[]): Promise<Answer> =>
  ilka.call('POST', '/api/instruments/many', { documents });
const held = async (): Promise<number> =>
  (await server.database.raw('select count(*)::int as many from instrument where company_id = 1')).rows[0]
    .many;

describe('taking on many', () => {
  it('takes all on, each with its version and its line in the audit trail', async () => {
    expect((await takeOn(many(600))).body).toEqual({ instruments: 600 });
    expect(await held()).toBe(600);
    const { rows } = await server.database.raw(`
      select (select count(*)::int from instrument_version) as versions,
        (select count(*)::int from audit_event where action = 'instrument-created' and company_id = 1) as told`);
    expect(rows[0].told).toBe(600);
    const register = (await ilka.call('GET', '/api/register?on=2026-10-31')).body;
    expect(register.rows).toHaveLength(600);
  });

  it('takes none on where one is faulty, and says each fault at its document', async () => {
    const [first, second] = many(2, 5000);
    const documents = [
      first,
      { ...second, amount: '-5' },
      { ...loanDocument('Dollars'), currency: 'USD' },
      { ...first, lender: 'Another bank' },
      loanDocument('LOAN 7'),
      { document: 'coffer.instrument/1', kind: 'fund', name: 'A fund' },
      null,
    ];
    const { status, body } = await takeOn(documents);
    expect(status).toBe(422);
    const keys = new Set(
      body.error.faults.map(({ key }: { key: string }) => key.split('.').slice(0, 2).join('.')),
    );
    expect([...keys].sort()).toEqual([1, 2, 3, 4, 5, 6].map((at) => `documents.${at}`));
    const at = (key: string): string =>
      body.error.faults.find((fault: { key: string }) => fault.key === key)?.message;
    expect(at('documents.2.currency')).toMatch(/keeps its books in EUR/);
    expect(at('documents.3.name')).toMatch(/Document 1 has the name/);
    expect(at('documents.4.name')).toMatch(/The register has an instrument named LOAN 7/);
    expect(await held()).toBe(600);
    expect((await takeOn([])).status).toBe(422);
  });

  it('asks once what is asked about several', async () => {
    await ilka.insist('POST', '/api/periods/2026-10-31/lock', {});
    const documents = many(6, 9000);
    const asked = await takeOn(documents);
    expect(asked.body.error.confirm).toHaveLength(1);
    expect(asked.body.error.confirm[0].message).toMatch(
      /^Of 6 \(Loan 9000, .* and 2 more\) the same is asked/,
    );
    expect((await ilka.insist('POST', '/api/instruments/many', { documents })).body).toEqual({
      instruments: 6,
    });
  });

  it('tells how far it has come, to who sent it alone, and takes nothing on that nobody waits for', async () => {
    const key = randomUUID();
    const before = await held();
    const cancelled = new AbortController();
    const documents = many(2000, 20_000).map((document) => ({
      ...document,
      start: '2026-11-01',
      payments: { every: 'month', first: '2026-12-01', phases: [{ type: 'level', count: 360 }] },
    }));
    const sent = ilka
      .abortable('/api/instruments/many', { documents }, key, cancelled.signal)
      .catch(() => 'broken off');
    const bram = await server.as('bram');
    let soFar = { done: 0, of: 0 };
    while (soFar.done === 0) soFar = (await ilka.call('GET', `/api/instruments/many/${key}`)).body;
    expect(soFar.of).toBe(2000);
    expect((await bram.call('GET', `/api/instruments/many/${key}`)).status).toBe(403);
    cancelled.abort();
    expect(await sent).toBe('broken off');
    while (soFar.of > 0) soFar = (await ilka.call('GET', `/api/instruments/many/${key}`)).body;
    expect(await held()).toBe(before);
  });
});
